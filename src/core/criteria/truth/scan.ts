import { Recent } from '@/core/memory';
import { type Numeric, numeric } from '@/core/numeric';
import { type Node, type SlotNumber, slotsRead } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import { emitScan, emitValue, type Layout } from './emitScan';
import { append, type Timeline, type Truth } from './timeline';

/** Columns of a trace by slot, and the values of slots that do not change in a run (parameters). */
export interface Signals {
  readonly trace: Trace;
  readonly column: (slot: SlotNumber) => Column | undefined;
  readonly constant: (slot: SlotNumber) => number;
}

/**
 * The signals of a trace.
 * @param constant values of slots without a column; nothing is known of them unless said
 */
export function signalsOf(trace: Trace, constant: (slot: SlotNumber) => number = () => Number.NaN): Signals {
  const columns = new Map(trace.columns.map((column) => [column.slot, column]));
  return { trace, column: (slot) => columns.get(slot), constant };
}

/** The least value of a quantity over a window, with the values of its signals there. */
export interface Least {
  readonly value: number;
  readonly at: readonly number[];
  /** No value was missing in the window. */
  readonly complete: boolean;
}

/**
 * A quantity of a trace in dense time; one that differs from 0 by no more than the rounding of its own sums is 0 (1.05 − 1 is no more than 0.05). Between rows its signals run as their columns say; ABS, MIN and MAX bend where they must,
 * so that the quantity is straight between the rows, the bends and its own zeros.
 */
export interface Scan {
  /** Truth of "quantity > 0" (strict) or "≥ 0" over the whole trace. */
  timeline(strict: boolean): Timeline;
  /** Infimum over [from, until) or [from, until]. */
  least(from: number, until: number, closed: boolean): Least;
  /** Value of another quantity at a point that `least` gave; it may read no signals but those of this one. */
  valueAt(node: Node, at: readonly number[]): number;
}

/** What emitted code reads: walked base, columns, other bases, constants, and two vectors for the ends of a cell. */
interface Reach {
  readonly T: Float64Array;
  readonly C: readonly Float64Array[];
  readonly B: readonly Float64Array[];
  readonly K: readonly number[];
  readonly X: Float64Array;
  readonly Y: Float64Array;
}

interface Code {
  timeline(reach: Reach, sink: TimelineSink): void;
  least(reach: Reach, from: number, until: number, closed: boolean, sink: LeastSink): void;
  value(K: readonly number[], z: ArrayLike<number>): number;
  readonly bends: readonly ((K: readonly number[], z: ArrayLike<number>) => number)[];
}
type Factory = (N: Numeric, F: () => void) => Code;

/**
 * Compiled code by its text, shared by all runs: a campaign judges the same criteria over and over. It is handed its data at each call,
 * because code that closes over a trace is thrown away by the engine together with the trace.
 */
const codes = new Recent<Code>(1_000_000);

function codeOf(text: string): Code {
  const known = codes.get(text);
  if (known) return known;
  const code = (new Function('N', 'F', text) as Factory)(numeric, () => undefined);
  codes.set(text, code);
  return code;
}

/** Code by the very expression and how its signals lie, so that the text need not be printed anew for each trace. */
const codesOfNodes = new WeakMap<Node, Map<string, Code>>();

function codeFor(node: Node, isTruth: boolean, layout: readonly Layout[], constants: readonly SlotNumber[]): Code {
  const key = `${isTruth}${layout.map(({ straight, base }) => `${straight}${base}`).join()}/${constants.length}`;
  const known = codesOfNodes.get(node) ?? new Map<string, Code>();
  const code = known.get(key) ?? codeOf(emitScan({ node, isTruth, layout, constants }));
  codesOfNodes.set(node, known.set(key, code));
  return code;
}

/** Compiles a quantity for one trace. `isTruth` marks a BOOL expression: true is +½, false −½, missing is NaN. */
export function scan(node: Node, isTruth: boolean, signals: Signals): Scan {
  const slots = [...slotsRead(node)];
  const columns = slots.flatMap((slot) => {
    const column = signals.column(slot);
    return column ? [{ slot, column }] : [];
  });
  const constants = slots.filter((slot) => !signals.column(slot));
  const { trace } = signals;
  // Base 0 holds every instant of the run; signals of one task alone are walked on that task's own base.
  const all = [...new Set(columns.map(({ column }) => column.base))];
  const main = all.length === 1 ? (all[0] ?? 0) : 0;
  const bases = all.filter((base) => base !== main);
  const layout = columns.map(({ slot, column }) => ({ slot, straight: column.between === 'straight', base: bases.indexOf(column.base) }));
  const reach: Reach = {
    T: trace.bases[main] ?? new Float64Array(0),
    C: columns.map(({ column }) => column.data),
    B: bases.map((base) => trace.bases[base] ?? new Float64Array(0)),
    K: constants.map(signals.constant),
    X: new Float64Array(columns.length),
    Y: new Float64Array(columns.length),
  };
  const code = codeFor(node, isTruth, layout, constants);
  return {
    timeline: (strict) => {
      const sink = new TimelineSink(code, strict, trace.until, reach);
      code.timeline(reach, sink);
      return sink.line;
    },
    least: (from, until, closed) => {
      const sink = new LeastSink(code, reach);
      code.least(reach, from, until, closed, sink);
      return { value: sink.low, at: sink.at, complete: sink.complete };
    },
    valueAt: (other, at) => {
      const evaluate = new Function('N', 'F', 'z', 'K', emitValue(other, layout, constants)) as (
        N: Numeric,
        F: () => void,
        z: readonly number[],
        K: readonly number[],
      ) => number;
      return evaluate(numeric, () => undefined, at, reach.K);
    },
  };
}

function truthOf(d: number, strict: boolean): Truth {
  if (Number.isNaN(d)) return 2;
  return d > 0 || (d === 0 && !strict) ? 1 : 0;
}

/** Truth inside a straight piece that does not change sign, from the values at its ends. */
function truthInside(a: number, b: number, strict: boolean): Truth {
  if (Number.isNaN(a) || Number.isNaN(b)) return 2;
  if (a > 0 || b > 0) return 1;
  return a < 0 || b < 0 ? 0 : truthOf(0, strict);
}

/** Takes what the emitted walk finds. A class, so that the walk's calls keep one target and stay inlined from run to run. */
class TimelineSink {
  readonly line: Timeline;

  constructor(
    private readonly code: Code,
    private readonly strict: boolean,
    until: number,
    private readonly reach: Reach,
  ) {
    this.line = { time: [], point: [], span: [], until };
  }

  point(t: number, d: number): void {
    append(this.line, t, truthOf(d, this.strict), truthOf(d, this.strict));
  }

  /** A cell whose truth is not plain from the signs at its ends. */
  cell(from: number, to: number): void {
    const { line, strict } = this;
    const pieces = bend(this.code, this.reach);
    pieces.forEach(({ share, value: a }, index) => {
      const next = pieces[index + 1];
      if (!next) return;
      const b = next.value;
      const t = index === 0 ? from : from + (to - from) * share;
      const end = index + 2 === pieces.length ? to : from + (to - from) * next.share;
      if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
        const zero = t + (end - t) * (a / (a - b));
        append(line, t, truthOf(a, strict), truthOf(a, strict));
        append(line, zero, truthOf(0, strict), truthOf(b, strict));
      } else {
        append(line, t, truthOf(a, strict), truthInside(a, b, strict));
      }
    });
  }
}

/** Keeps the least value and where its signals stood. */
class LeastSink {
  low = Number.POSITIVE_INFINITY;
  at: number[] = [];
  complete = true;

  constructor(
    private readonly code: Code,
    private readonly reach: Reach,
  ) {}

  /** A new least, at the start (side 0: x) or end (side 1: y) of a cell. */
  improve(d: number, side: number): void {
    this.low = d;
    const vector = side === 0 ? this.reach.X : this.reach.Y;
    for (let i = 0; i < vector.length; i += 1) this.at[i] = vector[i] as number;
  }

  /** A cell that bends or is cut by the window: look at the cut ends and at every bend between them. */
  piece(start: number, end: number, a: number, b: number): void {
    const [low, high] = [(a - start) / (end - start), (b - start) / (end - start)];
    const bends = bend(this.code, this.reach)
      .map((one) => one.share)
      .filter((share) => share > low && share < high);
    for (const share of [low, ...bends, high]) {
      const vector = between(this.reach, share);
      const d = this.code.value(this.reach.K, vector);
      if (d < this.low) {
        this.low = d;
        this.at = vector;
      }
    }
  }
}

function between({ X, Y }: Reach, share: number): number[] {
  return Array.from(X, (start, i) => (share === 0 ? start : share === 1 ? (Y[i] as number) : start + share * ((Y[i] as number) - start)));
}

/** Cuts a cell (values X at its start, Y at its end) where ABS, MIN or MAX bend; inner bends first, so that the outer ones are straight by then. */
function bend(code: Code, reach: Reach): { share: number; value: number }[] {
  let shares = [0, 1];
  const at = (share: number): number[] => between(reach, share);
  for (const bends of code.bends) {
    const next: number[] = [];
    shares.forEach((share, index) => {
      next.push(share);
      const end = shares[index + 1];
      if (end === undefined) return;
      const [a, b] = [bends(reach.K, at(share)), bends(reach.K, at(end))];
      if ((a < 0 && b > 0) || (a > 0 && b < 0)) next.push(share + (end - share) * (a / (a - b)));
    });
    shares = next;
  }
  return shares.map((share) => ({ share, value: code.value(reach.K, at(share)) }));
}
