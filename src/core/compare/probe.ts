import type { InputChange } from '@/core/plan';
import { type Experiment, simulate, withWalksWritten } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { gapAt } from './figures';
import { Pieces, type Signal, signalOf } from './pieces';

/** One input pushed at an instant, all else as in the case. */
export interface Push {
  /** Index into the plan's free inputs. */
  readonly input: number;
  /** Seconds. */
  readonly at: number;
  /** Added to the input from then on; a truth is reversed whatever the amount. */
  readonly by: number;
}

/** Which way a signal went for it. */
export interface Answered {
  readonly name: string;
  readonly unit: string;
  /** The regions of a chart have no up and down: they are in another state for a while. */
  readonly way: 'rises' | 'falls' | 'stays' | 'goes both ways' | 'in another state';
  /** The row from which on it moves, s. */
  readonly from?: number;
  /** Largest deviation from the case as it was, with its sign. */
  readonly largest: number;
}

/** Moved by less than this share of its span a signal stays. */
const still = 1e-6;
/** One way counts as the way when the other is so much smaller. */
const oneWay = 0.1;

/**
 * Pushes one input and lists which signals rise, fall or stay: the quickest look at whether signs are right.
 * @throws RangeError in words when one of the two runs cannot be made, or nothing is left of the run after the push
 */
export function probe(experiment: Experiment, push: Push): Answered[] {
  const end = experiment.stopNs / 1e9;
  if (!(push.at >= 0 && push.at < end)) throw new RangeError(`the push must come between 0 and ${timeWords(end)}`);
  const written = withWalksWritten(experiment);
  const [plain, pushed] = [simulate(experiment), simulate({ ...written, stimuli: pushedStimuli(written, push) })];
  const { error } = plain.error ? plain : pushed;
  if (error) throw new RangeError(error.message);
  const regions = new Set(experiment.plan.regions.map((region) => region.slot));
  return plain.trace.columns.flatMap((column) => {
    const other = pushed.trace.columns.find((one) => one.slot === column.slot);
    const isPushed = column.slot === experiment.plan.inputs[push.input]?.slot;
    return other && !isPushed ? [inWords(answered(column, plain.trace, other, pushed.trace, push.at), regions.has(column.slot))] : [];
  });
}

function inWords(one: Answered, isRegion: boolean): Answered {
  return isRegion && one.way !== 'stays' ? { ...one, way: 'in another state', largest: 0 } : one;
}

/** The answer in a sentence. */
export function probeWords(input: string, { at }: Push, found: readonly Answered[]): string {
  const count = (way: Answered['way']): number => found.filter((one) => one.way === way).length;
  const parts = (
    [
      ['rises', 'rise', count('rises')],
      ['falls', 'fall', count('falls')],
      ['goes both ways', 'go both ways', count('goes both ways')],
      ['is in another state', 'are in other states', count('in another state')],
    ] as const
  ).flatMap(([one, several, number]) => (number === 0 ? [] : [`${number} ${number === 1 ? one : several}`]));
  const stay = count('stays');
  const place = `${input}, pushed at ${timeWords(at)}`;
  if (parts.length === 0) return `${place}: nothing answers.`;
  return `${place}: of ${found.length} signals ${parts.join(', ')}${stay > 0 ? `; ${stay} ${stay === 1 ? 'stays' : 'stay'}` : ''}.`;
}

function pushedStimuli({ plan, stimuli }: Experiment, { input, at, by }: Push): InputChange[] {
  const slot = plan.slots[plan.inputs[input]?.slot ?? -1];
  const moved = (value: number): number => (slot?.type === 'BOOL' ? 1 - value : value + by);
  const atNs = Math.round(at * 1e9);
  const own = stimuli.filter((change) => change.input === input);
  const before = own.filter((change) => change.atNs <= atNs).at(-1);
  const then = before ? before.value + before.slope * (at - before.atNs / 1e9) : (slot?.start ?? 0);
  const first: InputChange = { atNs, input, value: moved(then), slope: before?.slope ?? 0 };
  const rest = stimuli.map((change) => (change.input === input && change.atNs > atNs ? { ...change, value: moved(change.value) } : change));
  return [...rest, first].sort((a, b) => a.atNs - b.atNs);
}

function answered(column: Column, plain: Trace, other: Column, pushed: Trace, at: number): Answered {
  const [one, two] = [signalOf(column, plain), signalOf(other, pushed)];
  const end = Math.min(plain.until, pushed.until);
  let [up, down, low, high] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const pieces = new Pieces(one, two, at, end);
  const look = (value: number, pushedValue: number): void => {
    const by = gapAt(value, pushedValue);
    if (!Number.isFinite(by)) return;
    [low, high] = [Math.min(low, value, pushedValue), Math.max(high, value, pushedValue)];
    [up, down] = [Math.max(up, by), Math.min(down, by)];
  };
  for (let count = pieces.next(); count > 0; count = pieces.next())
    for (let k = 0; k < count; k += 1) {
      look(pieces.a0[k] as number, pieces.b0[k] as number);
      look(pieces.a1[k] as number, pieces.b1[k] as number);
    }
  const least = still * (high - low);
  const largest = up > -down ? up : down;
  const way = !(Math.abs(largest) > least) ? 'stays' : -down <= oneWay * up ? 'rises' : up <= -oneWay * down ? 'falls' : 'goes both ways';
  return {
    name: column.name,
    unit: column.unit,
    way,
    ...(way === 'stays' ? {} : { from: movesFrom(one, two, at, end, least) }),
    largest: way === 'stays' ? 0 : largest,
  };
}

/** The row that begins the first stretch in which the two lie further apart than `least`; a jump begins at its own row. */
function movesFrom(one: Signal, two: Signal, at: number, end: number, least: number): number {
  const pieces = new Pieces(one, two, at, end);
  for (let count = pieces.next(); count > 0; count = pieces.next())
    for (let k = 0; k < count; k += 1) {
      const [before, after] = [gapAt(pieces.a0[k] as number, pieces.b0[k] as number), gapAt(pieces.a1[k] as number, pieces.b1[k] as number)];
      if (Math.abs(before) > least || Math.abs(after) > least) return pieces.t0[k] as number;
    }
  return Number.NaN;
}
