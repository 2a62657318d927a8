import { type Experiment, simulate } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { probe } from './probe';

/** From a hit on, until before another (seconds). */
export interface Stretch {
  readonly from: number;
  readonly until: number;
}

export interface ClauseAnswer {
  readonly text: string;
  /** Where it was FALSE while the source state was active. */
  readonly missing: readonly Stretch[];
}

/** Why a transition was not taken, or when it was. */
export interface WhyNot {
  readonly source: string;
  readonly to: string;
  readonly file: string;
  readonly line: number;
  /** Where the source state was active at hits of the chart. */
  readonly active: readonly Stretch[];
  /** Hits at which it was taken (s). */
  readonly taken: readonly number[];
  /** Hits at which all clauses were TRUE, and yet another transition was taken before it. */
  readonly overtaken: readonly number[];
  readonly clauses: readonly ClauseAnswer[];
  /** The hit at which the fewest clauses were FALSE, when it was never taken, and which those were. */
  readonly nearest?: { readonly at: number; readonly missing: readonly string[] };
}

/**
 * Makes a run once more with notes about one transition of a chart, and reads off which clause of its guard was FALSE, and when.
 * @param transition index into `experiment.plan.transitions`
 * @throws RangeError when there is no such transition
 */
export function whyNot(experiment: Experiment, transition: number): WhyNot {
  const { plan } = experiment;
  const info = plan.transitions[transition];
  const probed = info && probe(plan, info);
  if (!info || !probed) throw new RangeError(`the loop has no transition ${transition}`);
  const { trace } = simulate({ ...experiment, plan: probed.plan, coverage: false });
  const read = (slot: number): Float64Array => column(trace, slot).data;
  const [active, taken, open] = [read(probed.active), read(probed.taken), read(probed.open)];
  const clauses = probed.clauses.map(read);
  const times = trace.bases[column(trace, probed.active).base] as Float64Array;
  const stretches = (holds: (hit: number) => boolean): Stretch[] => stretchesOf(times, trace.until, holds);
  const hits = [...times.keys()];
  const at = (hit: number): number => times[hit] as number;
  const takenAt = hits.filter((hit) => taken[hit] === 1).map(at);
  const place = plan.sites[info.site];
  return {
    source: info.source,
    to: info.to,
    file: place?.file ?? '',
    line: place?.line ?? 0,
    active: stretches((hit) => active[hit] === 1),
    taken: takenAt,
    overtaken: hits.filter((hit) => open[hit] === 1 && taken[hit] === 0).map(at),
    clauses: info.clauses.map(({ text }, index) => ({ text, missing: stretches((hit) => active[hit] === 1 && clauses[index]?.[hit] === 0) })),
    ...(takenAt.length === 0 ? nearest() : {}),
  };

  function nearest(): Pick<WhyNot, 'nearest'> {
    const missing = (hit: number): string[] => info?.clauses.filter((_, index) => clauses[index]?.[hit] === 0).map(({ text }) => text) ?? [];
    let best: number | undefined;
    for (const hit of hits) if (active[hit] === 1 && (best === undefined || missing(hit).length < missing(best).length)) best = hit;
    return best === undefined ? {} : { nearest: { at: at(best), missing: missing(best) } };
  }
}

function column(trace: Trace, slot: number): Trace['columns'][number] {
  const found = trace.columns.find((one) => one.slot === slot);
  if (!found) throw new Error(`slot ${slot} is not in the trace`);
  return found;
}

function stretchesOf(times: Float64Array, until: number, holds: (hit: number) => boolean): Stretch[] {
  const found: Stretch[] = [];
  let from: number | undefined;
  for (let hit = 0; hit <= times.length; hit += 1) {
    const is = hit < times.length && holds(hit);
    if (is && from === undefined) from = times[hit];
    if (!is && from !== undefined) {
      found.push({ from, until: times[hit] ?? until });
      from = undefined;
    }
  }
  return found;
}
