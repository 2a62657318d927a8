import type { Criterion, Judgement } from '@/core/criteria';
import { largestRealPart } from '@/core/linear';
import type { SlotNumber } from '@/core/plan';
import type { Experiment, RunOutcome } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';

/** What is taken of a run. */
export type Figure =
  /** A measure held against 0, so that the distance from there is the figure itself; its sentence tells what it means where a wire is faulty. */
  | { readonly k: 'criterion'; readonly criterion: Criterion; readonly sentence: string }
  /** The largest real part of the poles of the loop about the rest near an instant (s), the end of the run unless said. */
  | { readonly k: 'poles'; readonly at?: number }
  /** How fast the swings of a signal grow after the last change of what acts on the loop; negative where they decay. */
  | { readonly k: 'growth'; readonly slot: SlotNumber };

/** A figure of a run, in its unit. */
export interface MeasuredFigure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
}

/** A figure that is asked for, by its name. */
export interface WantedFigure {
  readonly name: string;
  readonly figure: Figure;
}

/** The figures of a run; those that it has not are left out. @param judge what finds the greatest distance of each criterion */
export function figuresOf(
  wanted: readonly WantedFigure[],
  experiment: Experiment,
  outcome: RunOutcome,
  judge: (watched: { requirement: string; name: string; criterion: Criterion }[]) => readonly Judgement[],
): MeasuredFigure[] {
  return wanted.flatMap(({ name, figure }): MeasuredFigure[] => {
    if (figure.k === 'poles') {
      const found = largestRealPart(experiment, Math.min(figure.at ?? Number.POSITIVE_INFINITY, outcome.trace.until));
      return 'perSecond' in found ? [{ name, value: found.perSecond, unit: '1/s' }] : [];
    }
    if (figure.k === 'growth') {
      const value = growthOf(figure.slot, outcome.trace, experiment);
      return value === undefined ? [] : [{ name, value, unit: '1/s' }];
    }
    const [{ obligations = [], worst = -1 } = {}] = judge([{ requirement: '', name, criterion: figure.criterion }]);
    const owed = obligations[worst];
    // One that is not decided when the run ends is none.
    if (!owed?.margin || owed.outcome === 'open' || owed.margin.atLeast) return [];
    return [{ name, value: 0 - owed.margin.value, unit: owed.margin.unit }];
  });
}

/**
 * The rate at which the swings of a signal grow: ln (swing of the last third / swing of the first third) over the time between the two, of what follows the last change of an input or a parameter.
 * @returns undefined where it does not move, or nothing follows
 */
function growthOf(slot: SlotNumber, trace: Trace, { plan }: Experiment): number | undefined {
  const column = trace.columns.find((one) => one.slot === slot);
  if (!column) return undefined;
  const outside = new Set([...plan.inputs.map((one) => one.slot), ...plan.parameters]);
  const from = Math.max(trace.from, ...trace.columns.filter((one) => outside.has(one.slot)).map((one) => lastChange(one, trace)));
  const third = (trace.until - from) / 3;
  const [first, last] = [swing(column, trace, from, from + third), swing(column, trace, trace.until - third, trace.until)];
  return third > 0 && first > 0 && last > 0 ? Math.log(last / first) / (2 * third) : undefined;
}

function lastChange({ base, data }: Column, trace: Trace): number {
  const time = trace.bases[base] as Float64Array;
  const at = data.findLastIndex((value, row) => row > 0 && value !== data[row - 1]);
  return at < 0 ? trace.from : (time[at] as number);
}

function swing({ base, data }: Column, trace: Trace, from: number, until: number): number {
  const time = trace.bases[base] as Float64Array;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let row = 0; row < data.length; row += 1) {
    const t = time[row] as number;
    if (t < from || t > until) continue;
    low = Math.min(low, data[row] as number);
    high = Math.max(high, data[row] as number);
  }
  return high - low;
}
