import { enumerated } from '@/core/formula';
import { nameKey, printDuration } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { Stream } from '@/core/numeric';
import { type Enumeration, integerRange } from '@/core/plan';
import type { RawCase, RawFault, RawPiece, RawStep, Scalar } from '@/core/shapes';

/** One thing a case does: an input gets a value, at once or straight over a time, a message is sent, a wire gets a fault; or a value that it has from its start. */
export interface Move {
  readonly atNs: number;
  /** Name of the input or the message, or of the input a wire ends at. */
  readonly name: string;
  /** Of an input, a parameter or a start of a state. */
  readonly value?: Scalar;
  /** Of a wire: what happens to it. */
  readonly fault?: 'frozen' | 'lost' | 'over';
  /** End of a ramp. */
  readonly untilNs?: number;
  /** It waits until a state is active, but gives up after a time, and comes so long after that, instead of at a time. Such a case is a script. */
  readonly wait?: { readonly state: string; readonly thenNs: number; readonly giveUpNs: number };
}

/** What may be moved: a free input with its kind and limits, a message, a wire, or a parameter or the start of a state, which has one value for the whole run. */
export interface Movable {
  readonly name: string;
  readonly kind: 'truth' | 'whole' | 'real' | 'message' | 'wire' | 'parameter';
  readonly start: number;
  readonly low: number;
  readonly high: number;
  /** Of a whole number that stands for a value with a name; within a search it is a number, in a document its name. */
  readonly enumeration?: Enumeration;
  /** Of a number: values that something depends on. */
  readonly notable?: readonly number[];
}

/** Reach of a number without limits, in parts of its start or of 1. */
const usualReach = 10;

/** All that a case of a loop may move. @param withWires faults of wires as well */
export function movablesOf({ plan, catalogue, wireEnds }: AssembledLoop, withWires: boolean): Movable[] {
  const inputs = plan.inputs.flatMap(({ name, slot }): Movable[] => {
    const info = plan.slots[slot];
    const entry = catalogue.findEntry(name, ['input']);
    if (!info || info.type === 'TIME') return [];
    const reach = usualReach * Math.max(1, Math.abs(info.start));
    const [low, high] = [entry?.min ?? info.min ?? info.start - reach, entry?.max ?? info.max ?? info.start + reach];
    const kind = info.type === 'BOOL' ? 'truth' : integerRange[info.type] ? 'whole' : 'real';
    return [{ name, kind, start: info.start, low, high, ...enumerated(info) }];
  });
  const plain = { start: 0, low: 0, high: 0 };
  const messages = plan.messages.map(({ name }): Movable => ({ name, kind: 'message', ...plain }));
  const free = new Set(plan.inputs.map(({ slot }) => slot));
  // What comes from a free input is moved there.
  const wires = withWires ? wireEnds.filter(({ slot }) => !free.has(slot)).map(({ name }): Movable => ({ name, kind: 'wire', ...plain })) : [];
  return [...inputs, ...messages, ...wires];
}

/**
 * Parameters and starts of states that a case may set, between their declared limits.
 * @throws Error in words, of one that is not there or has no limits
 */
export function variedOf({ plan, catalogue }: AssembledLoop, names: readonly string[]): Movable[] {
  return names.map((name) => {
    const entry = catalogue.findEntry(name, ['parameter', 'state']);
    if (!entry) throw new Error(`there is no parameter or state ${name} in ${plan.loop.split('/')[0]}`);
    const { min: low, max: high } = entry;
    if (low === undefined || high === undefined) throw new Error(`${name} has no limits: give it min and max where it is declared`);
    return { name, kind: 'parameter', start: plan.slots[entry.slot]?.start ?? low, low, high, ...enumerated(entry) };
  });
}

/** Parameters with limits of all that is not sampled: of the plant, which may be as it is, and not of the controller, which is what is tested. */
export function plantValues({ plan, catalogue }: AssembledLoop): string[] {
  const sampled = plan.tasks.map((task) => `${nameKey(task.component)}.`);
  return catalogue.entries
    .filter(({ role, min, max }) => role === 'parameter' && min !== undefined && max !== undefined && max > min)
    .map(({ name }) => name)
    .filter((name) => !sampled.some((component) => nameKey(name).startsWith(component)));
}

/** A time as a person would write it: to two digits, and no finer than a tenth of a second. */
export function roundTime(ns: number): number {
  const seconds = ns / 1e9;
  const step = seconds < 10 ? 0.1 : seconds < 100 ? 1 : 10;
  return Math.round(Math.round(seconds / step) * step * 1e9);
}

/** A value within the limits, to two digits, or one of the limits. */
export function drawnValue(of: Movable, stream: Stream): Scalar {
  if (of.kind === 'truth') return stream.next() < 0.5;
  const u = stream.next();
  if (u < 0.15) return of.low;
  if (u < 0.3) return of.high;
  if (u < 0.55 && of.notable) return of.notable[Math.floor(stream.next() * of.notable.length)] ?? of.low;
  const between = of.low + stream.next() * (of.high - of.low);
  const rounded = of.kind === 'whole' || of.enumeration ? Math.round(between) : Number(between.toPrecision(2));
  return Math.max(of.low, Math.min(of.high, rounded));
}

/**
 * Which moves of a case are steps of its script: messages and faults; and where something waits, all that is done at once, since what waits comes when it comes. An input with a ramp has its course over
 * time, and waits for nothing.
 */
export function stepsAmong(moves: readonly Move[]): (move: Move) => boolean {
  const ramped = new Set(moves.flatMap((one) => (one.untilNs === undefined ? [] : [nameKey(one.name)])));
  const hasWaits = moves.some(({ name, wait }) => wait !== undefined && !ramped.has(nameKey(name)));
  return ({ name, value }) => value === undefined || (hasWaits && !ramped.has(nameKey(name)));
}

/** A value as a document has it. */
export function writtenValue(value: Scalar, { enumeration }: Pick<Movable, 'enumeration'>): Scalar {
  return (typeof value === 'number' ? enumeration?.values[value] : undefined) ?? value;
}

/** The document of a case that makes some moves. */
export function caseOf(loop: string, name: string, stopNs: number, moves: readonly Move[], movables: readonly Movable[]): RawCase {
  const isStep = stepsAmong(moves);
  const fromStart = new Set(movables.filter(({ kind }) => kind === 'parameter').map((one) => nameKey(one.name)));
  const named = new Map(movables.map((one) => [nameKey(one.name), one]));
  const withWrittenValue = (move: Move): Move =>
    move.value === undefined ? move : { ...move, value: writtenValue(move.value, named.get(nameKey(move.name)) ?? {}) };
  const inOrder = moves
    .filter((one) => !fromStart.has(nameKey(one.name)))
    .sort((a, b) => a.atNs - b.atNs)
    .map(withWrittenValue);
  const stimuli: Record<string, RawPiece[]> = {};
  for (const { name: input } of movables) {
    const pieces = piecesOf(inOrder.filter((one) => !isStep(one) && nameKey(one.name) === nameKey(input)));
    if (pieces.length > 0) stimuli[input] = pieces;
  }
  const script = scriptOf(inOrder.filter(isStep));
  return {
    case: name,
    loop,
    stop: printDuration(stopNs),
    ...(Object.keys(stimuli).length > 0 ? { stimuli } : {}),
    ...(script.length > 0 ? { script } : {}),
  };
}

/** The course of one input. A ramp ends at the latest where the next move begins; of two moves at one time the later one counts. */
function piecesOf(moves: readonly Move[]): RawPiece[] {
  return moves.flatMap(({ atNs, value, untilNs }, index): RawPiece[] => {
    const next = moves[index + 1]?.atNs ?? Number.POSITIVE_INFINITY;
    if (next <= atNs || value === undefined) return [];
    const until = untilNs === undefined ? undefined : Math.min(untilNs, next);
    if (until !== undefined && until > atNs) return [{ ramp: value, from: printDuration(atNs), until: printDuration(until) }];
    return [atNs === 0 ? { hold: value } : { step: value, at: printDuration(atNs) }];
  });
}

/** What is done one after the other, with what it waits for, or the time between held. */
function scriptOf(acts: readonly Move[]): RawStep[] {
  return acts.flatMap((act, index): RawStep[] => {
    const { atNs, wait } = act;
    const since = wait ? wait.thenNs : atNs - (acts[index - 1]?.atNs ?? 0);
    return [
      ...(wait ? [{ wait: { until: wait.state, give_up_after: printDuration(wait.giveUpNs) } }] : []),
      ...(since > 0 ? [{ hold: printDuration(since) }] : []),
      stepOf(act),
    ];
  });
}

function stepOf({ name, value, fault }: Move): RawStep {
  if (value !== undefined) return { set: { [name]: value } };
  return fault === undefined ? { send: name } : { fault: faultOf(name, fault) };
}

function faultOf(on: string, fault: NonNullable<Move['fault']>): RawFault {
  if (fault === 'frozen') return { on, frozen: true };
  return fault === 'lost' ? { on, lost: true } : { on, over: true };
}
