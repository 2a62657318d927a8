import { stringify } from 'yaml';
import { fileNameOf, type LoopDocument, type PairedParts, type Project, pairedParts, type SourceFile } from '@/core/documents';
import { widens } from '@/core/formula';
import { nameKey } from '@/core/language';
import { remember } from '@/core/memory';
import type { ValueType } from '@/core/plan';
import type { RawPairing } from '@/core/shapes';
import { sameUnit } from '@/core/units';

/** An end of a pair: an input or output, or a free input of the host. */
export interface PairEnd {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
}

/** An input or output of the controller, with what it could be paired with. */
export interface PairRow extends PairEnd {
  readonly direction: 'input' | 'output';
  /** What it is paired with, or what is proposed. */
  readonly pairedWith: readonly string[];
  /** Why that is proposed, or why nothing is. */
  readonly because: string;
  /** Ends of the host that suit it by type and unit, the likeliest first. */
  readonly candidates: readonly PairEnd[];
  /** A free input of the controller's own loop, which comes along where nothing is paired. */
  readonly free?: string;
}

/** What can be paired between the controller of a loop and a host. */
export interface PairProposal {
  readonly rows: readonly PairRow[];
  /** Inputs of the host that something has to drive. */
  readonly orphans: readonly string[];
  readonly parts: PairedParts;
}

/**
 * Proposes pairs by name and unit: an end of the same name and unit, one whose name has words in common, the only one that what makes room was wired to, or the only one of its unit.
 * @param replaces components of the host that make room; its own controller unless said
 */
export function proposePairs(project: Project, from: LoopDocument, host: LoopDocument, replaces?: readonly string[]): PairProposal {
  const parts = pairedParts(from, host, replaces, { components: project.components, controller: project.controller?.raw });
  const faces = new Faces(project, from, host);
  const signals = parts.signals.flatMap((name) => faces.inHost(name, 'outputs'));
  const ends = parts.ends.flatMap((name) => faces.inHost(name, 'inputs'));
  const taken = new Set<string>();
  const inputs = parts.inputs.flatMap(({ name, free }) =>
    faces.ofController(name, 'inputs').map((end): PairRow => {
      const candidates = ranked(
        end,
        signals.filter((one) => widens(one.type, end.type) && sameUnit(one.unit, end.unit)),
      );
      return { ...end, direction: 'input', ...chosen(end, candidates, parts.readBefore, free), candidates, ...(free === undefined ? {} : { free }) };
    }),
  );
  const outputs = parts.outputs.flatMap((name) =>
    faces.ofController(name, 'outputs').map((end): PairRow => {
      const candidates = ranked(
        end,
        ends.filter((one) => widens(end.type, one.type) && sameUnit(one.unit, end.unit)),
      );
      const found = chosen(
        end,
        candidates.filter((one) => !taken.has(nameKey(one.name))),
        parts.orphans,
      );
      for (const one of found.pairedWith) taken.add(nameKey(one));
      return { ...end, direction: 'output', ...found, candidates };
    }),
  );
  return { rows: [...inputs, ...outputs], orphans: parts.orphans, parts };
}

/** A sheet of the pairs of some rows. @param before what it was: pairs of messages, which have no rows, stay */
export function pairingOf(
  head: Pick<RawPairing, 'pairing' | 'about' | 'controller' | 'host' | 'replaces'>,
  rows: readonly PairRow[],
  before?: RawPairing,
): RawPairing {
  const of = (direction: PairRow['direction']): PairRow[] => rows.filter((one) => one.direction === direction && one.pairedWith.length > 0);
  const hasRow = new Set(rows.map(({ name }) => nameKey(name)));
  const rest = <T>(pairs: Readonly<Record<string, T>> = {}): [string, T][] => Object.entries(pairs).filter(([name]) => !hasRow.has(nameKey(name)));
  const unused = rows.filter((one) => one.direction === 'output' && one.pairedWith.length === 0).map(({ name }) => name);
  return {
    ...head,
    inputs: Object.fromEntries([...of('input').map(({ name, pairedWith }) => [name, pairedWith[0] ?? ''] as const), ...rest(before?.inputs)]),
    outputs: Object.fromEntries([
      ...of('output').map(({ name, pairedWith }) => [name, pairedWith.length === 1 ? (pairedWith[0] ?? '') : pairedWith] as const),
      ...rest(before?.outputs),
    ]),
    ...(unused.length > 0 ? { unused } : {}),
  };
}

/** A pairing as a document of the project. */
export function pairingDocument(raw: RawPairing, path = `pairings/${fileNameOf(raw.pairing)}.yaml`): SourceFile {
  return { path, text: stringify(raw, { lineWidth: 0 }) };
}

/** Looks ends up in the faces of components. */
class Faces {
  constructor(
    private readonly project: Project,
    private readonly from: LoopDocument,
    private readonly host: LoopDocument,
  ) {}

  ofController(name: string, side: 'inputs' | 'outputs'): PairEnd[] {
    return this.portOf(this.from, name, side);
  }

  inHost(name: string, side: 'inputs' | 'outputs'): PairEnd[] {
    const free = this.host.raw.inputs?.[name];
    if (!free) return this.portOf(this.host, name, side);
    const [first = ''] = typeof free.to === 'string' ? [free.to] : free.to;
    return this.portOf(this.host, first, 'inputs').map((end) => ({ ...end, name }));
  }

  private portOf({ raw }: LoopDocument, full: string, side: 'inputs' | 'outputs'): PairEnd[] {
    const [component = '', port = ''] = full.split('.');
    const use = Object.entries(raw.components).find(([name]) => nameKey(name) === nameKey(component))?.[1].use ?? '';
    const face = this.project.components.get(nameKey(use))?.raw[side] ?? {};
    const found = Object.entries(face).find(([name]) => nameKey(name) === nameKey(port))?.[1];
    return found ? [{ name: full, type: found.type, unit: found.unit ?? '' }] : [];
  }
}

/** The likeliest first, by how much of the names they have in common; names that do not differ keep their order. */
function ranked(end: PairEnd, candidates: readonly PairEnd[]): PairEnd[] {
  return candidates
    .map((one) => ({ one, score: alike(end.name, one.name) }))
    .sort((a, b) => b.score - a.score)
    .map(({ one }) => one);
}

/** @param before ends that what makes room was wired to */
function chosen(end: PairEnd, candidates: readonly PairEnd[], before: readonly string[], free?: string): Pick<PairRow, 'pairedWith' | 'because'> {
  const [first, second] = candidates;
  const because = first && reason(end, first, second);
  if (first && because) return { pairedWith: [first.name], because };
  const wired = candidates.filter(({ name }) => before.some((one) => nameKey(one) === nameKey(name)));
  if (wired.length === 1 && wired[0] && free === undefined) return { pairedWith: [wired[0].name], because: 'what makes room was wired to it' };
  if (free !== undefined) return { pairedWith: [], because: `stays a free input, ${free}` };
  return { pairedWith: [], because: first ? 'several could be meant' : 'nothing in the host has its type and unit' };
}

/** Why the first of the candidates is meant, if so. */
function reason(end: PairEnd, first: PairEnd, second: PairEnd | undefined): string | undefined {
  const [own, best, next] = [lastOf(end.name), alike(end.name, first.name), second ? alike(end.name, second.name) : 0];
  if (nameKey(own) === nameKey(lastOf(first.name)) && best > next) return 'same name and unit';
  if (best > 0 && best > next) return 'like name, same unit';
  if (!second && end.unit !== '' && end.unit !== '1') return 'the only one of its unit';
  return undefined;
}

/** How much two names have in common: 1 for the same last part and the same whole, less for words they share, 0 for nothing. */
function alike(a: string, b: string): number {
  if (nameKey(a) === nameKey(b)) return 1;
  const [one, other] = [wordsOf(lastOf(a)), wordsOf(lastOf(b))];
  if (one.join() === other.join()) return 0.9;
  const [all, others] = [new Set(wordsOf(a)), new Set(wordsOf(b))];
  const common = [...all].filter((word) => others.has(word)).length;
  return (0.8 * common) / (all.size + others.size - common);
}

function lastOf(name: string): string {
  return name.slice(name.lastIndexOf('.') + 1);
}

/** The words of a name, as `lowerGate_open` has three. */
const wordsOf = remember((name) =>
  name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean),
);
