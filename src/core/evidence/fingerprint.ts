import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { encode } from '@/core/exchange';
import type { Plan } from '@/core/plan';
import type { Experiment } from '@/core/simulate';

/** Raised whenever the meaning of a plan or of a criterion changes (5: what differs from its limit by rounding alone is at it, errors are told at their step), so that results of the older meaning count as out of date. */
const semantics = 6;

/**
 * SHA-256 over everything a result depends on: plan, case, parameters, seed, solver and the version of the semantics.
 * Places, texts of clauses and what is only watched are left out: a moved line changes no result. All parts are built in a fixed order, so JSON is canonical here.
 */
export function resultFingerprint(experiment: Experiment): string {
  const { plan, ...rest } = experiment;
  return bytesToHex(
    begunWith(plan)
      .clone()
      .update(utf8ToBytes(`,${encode(rest).slice(1)}`))
      .digest(),
  );
}

/** SHA-256 over a plan alone: what a search over many cases of a loop depends on. */
export function planFingerprint(plan: Plan): string {
  return bytesToHex(begunWith(plan).clone().digest());
}

/** By the very plan, which is large: the hash of `{semantics, plan, …` up to where the rest of an experiment begins. */
const begun = new WeakMap<Plan, ReturnType<typeof sha256.create>>();

function begunWith(plan: Plan): ReturnType<typeof sha256.create> {
  const known = begun.get(plan);
  if (known) return known;
  const text = encode({
    semantics,
    plan: { ...plan, sites: [], transitions: [], decisions: undefined, positions: undefined, faces: undefined, internal: undefined, limited: [] },
  });
  const hash = sha256.create().update(utf8ToBytes(text.slice(0, -1)));
  begun.set(plan, hash);
  return hash;
}

/** SHA-256 over the evidence: the result's fingerprint with the criterion and the requirement text it speaks for. */
export function evidenceFingerprint(result: string, sentence: string, prose: string): string {
  return digest({ result, sentence, prose });
}

/** SHA-256 of a text file with LF line ends: its address in the store of documents. */
export function contentHash(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text.replace(/\r\n?/g, '\n'))));
}

function digest(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(encode(value))));
}
