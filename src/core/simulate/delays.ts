import type { Program } from '@/core/emit/js';
import type { Delay, Plan } from '@/core/plan';
import { timeWords } from '@/core/wording';

/** A step through which a value is remembered: at its two ends and at three places between, in equal distances. */
interface Piece {
  readonly fromNs: number;
  readonly untilNs: number;
  readonly values: Float64Array;
}

const quarters = 4;
/** Two instants nearer than this are one (ns): seconds as floating numbers are not whole nanoseconds. */
const near = 1e-3;

/** One value of the continuous part, and what it was so long ago. */
class Line {
  byNs = 0;
  private start = 0;
  private readonly pieces: Piece[] = [];
  /** What the value was last: the end of the newest piece. */
  private last = 0;
  /** Instants at which the value jumped, which have not come out yet. */
  private readonly jumps: number[] = [];
  /** The instant whose jump came out last. */
  private passedNs = Number.NEGATIVE_INFINITY;

  begin(byNs: number, start: number): void {
    this.byNs = byNs;
    this.start = start;
    this.last = start;
  }

  /** When the next jump comes out (ns). */
  get nextJumpNs(): number {
    return (this.jumps[0] ?? Number.POSITIVE_INFINITY) + this.byNs;
  }

  /** Notes whether the value has jumped at an instant. */
  isNow(ns: number, value: number): void {
    if (Object.is(value, this.last)) return;
    if (this.jumps.at(-1) !== ns) this.jumps.push(ns);
    this.last = value;
  }

  add(piece: Piece): void {
    this.pieces.push(piece);
    this.last = piece.values[quarters] as number;
    // Now and then, what nobody asks for any more goes.
    if (this.pieces.length % 4096 !== 0) return;
    this.pieces.splice(
      0,
      this.pieces.findIndex(({ untilNs }) => untilNs >= piece.fromNs - this.byNs),
    );
  }

  /** A jump that comes out at an instant does so. @returns whether there was one */
  pass(ns: number): boolean {
    if (this.nextJumpNs > ns) return false;
    this.jumps.shift();
    this.passedNs = ns;
    return true;
  }

  /** What comes out at an instant (ns, not always whole): before the jump that comes out there, until it was passed. */
  at(ns: number): number {
    const whole = Math.round(ns);
    const asked = (Math.abs(ns - whole) < near ? whole : ns) - this.byNs;
    const isAfter = asked + this.byNs === this.passedNs;
    if (asked < 0 || (asked === 0 && !isAfter)) return this.start;
    const index = this.pieceOf(asked, isAfter);
    const piece = this.pieces[index];
    return piece ? valueIn(piece, asked) : this.last;
  }

  /** The piece that ends at an instant or lies around it; after a jump the one that begins there. */
  private pieceOf(ns: number, isAfter: boolean): number {
    let [low, high] = [0, this.pieces.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      const { untilNs } = this.pieces[middle] as Piece;
      if (untilNs < ns || (isAfter && untilNs === ns)) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

/** The polynomial through the five values of a piece (Lagrange), which is exact at each of them. */
function valueIn({ fromNs, untilNs, values }: Piece, ns: number): number {
  const s = (quarters * (ns - fromNs)) / (untilNs - fromNs);
  const whole = Math.round(s);
  if (s === whole) return values[whole] as number;
  // Over the first of them, so that what is constant stays so to the last digit.
  const first = values[0] as number;
  let sum = first;
  for (let i = 1; i <= quarters; i += 1) {
    let part = (values[i] as number) - first;
    for (let j = 0; j <= quarters; j += 1) if (j !== i) part *= (s - j) / (i - j);
    sum += part;
  }
  return sum;
}

/**
 * The dead times of a plan. What goes in is remembered over each accepted step by a polynomial of the fourth degree through dense output; what comes out is that polynomial, so long later, and every jump at its very instant.
 * A step is never longer than the shortest dead time, so that nothing is asked for that is not known yet (method of steps: Bellen and Zennaro, Numerical Methods for Delay Differential Equations).
 */
export class Delays {
  /** The program, with every value that comes out put into its slot before anything is computed. */
  readonly program: Program;
  private readonly lines: readonly Line[];
  private fromNs = 0;
  /** At the begin of the step: what goes in, and the states with their derivatives. */
  private readonly began: Float64Array;
  private readonly states: readonly number[];
  private readonly x: readonly [begin: Float64Array, end: Float64Array];
  private readonly slopes: readonly [begin: Float64Array, end: Float64Array];

  /** @param read values of the plan beside the program's own, by number: for each dead time what goes in, how long it is (s), what comes out at first */
  constructor(
    private readonly plan: Plan,
    private readonly delays: readonly Delay[],
    private readonly inner: Program,
    private readonly read: (number: number, seconds: number) => number,
  ) {
    this.lines = delays.map(() => new Line());
    this.began = new Float64Array(delays.length);
    this.states = plan.states.map(({ slot }) => slot);
    const room = (): Float64Array => new Float64Array(this.states.length);
    [this.x, this.slopes] = [
      [room(), room()],
      [room(), room()],
    ];
    const derivative: Program['derivative'] = (seconds, x, dx) => {
      this.put(seconds);
      inner.derivative(seconds, x, dx);
    };
    const outputs: Program['outputs'] = (seconds) => {
      this.put(seconds);
      inner.outputs(seconds);
    };
    this.program = Object.assign(Object.create(inner) as Program, { derivative, outputs });
  }

  /** The run begins: dead times are what parameters make of them. @throws RangeError for one that is shorter than a step */
  begin(): void {
    const { method, stepNs } = this.plan.solver;
    const least = this.isFixed ? stepNs : 1000;
    this.delays.forEach(({ slot }, index) => {
      const seconds = this.read(3 * index + 1, 0);
      const byNs = Math.round(seconds * 1e9);
      if (!(byNs >= least))
        throw new RangeError(
          `the dead time ${this.plan.slots[slot]?.name ?? ''} is ${timeWords(seconds)}, which is less than ${this.isFixed ? 'the step of' : 'the least of'} ${timeWords(least / 1e9)}${this.isFixed ? ` of ${method}` : ''}; make it longer${this.isFixed ? ', or the step shorter' : ''}`,
        );
      (this.lines[index] as Line).begin(byNs, this.read(3 * index + 2, 0));
    });
  }

  private get isFixed(): boolean {
    return ['euler', 'heun', 'runge-kutta-4'].includes(this.plan.solver.method);
  }

  /** Values that come out at an instant, into their slots. */
  private put(seconds: number): void {
    for (let index = 0; index < this.lines.length; index += 1)
      this.inner.slots[this.delays[index]?.slot as number] = (this.lines[index] as Line).at(seconds * 1e9);
  }

  /** The latest instant to which a stretch from `ns` on may go: the next jump that comes out, or as far as nothing can come out that is not known yet; with a fixed step on its grid where there is a point of it. */
  latest(ns: number): number {
    const { stepNs } = this.plan.solver;
    const far = ns + Math.min(...this.lines.map(({ byNs }) => byNs));
    const grid = Math.floor(far / stepNs) * stepNs;
    return Math.min(this.isFixed && grid > ns ? grid : far, ...this.lines.map(({ nextJumpNs }) => nextJumpNs));
  }

  /** Jumps that come out at an instant do so. @returns whether there were any; continuous values are to follow */
  pass(ns: number): boolean {
    const passed = this.lines.map((line) => line.pass(ns));
    return passed.some(Boolean);
  }

  /** Continuous values are there as they are at an instant of the run, after all that happened at it. */
  isNow(ns: number): void {
    for (const [index, line] of this.lines.entries()) line.isNow(ns, this.read(3 * index, ns / 1e9));
  }

  /** A step begins at the present states. */
  stepBegins(ns: number): void {
    this.fromNs = ns;
    this.program.outputs(ns / 1e9);
    for (let index = 0; index < this.lines.length; index += 1) this.began[index] = this.read(3 * index, ns / 1e9);
  }

  /**
   * A step has ended.
   * @param inside puts the states at an instant of it (s) into their slots, at last those of its end
   */
  stepEnds(ns: number, inside: (seconds: number) => void): void {
    if (ns <= this.fromNs) return;
    const values = this.lines.map((_, index) => Float64Array.of(this.began[index] as number, 0, 0, 0, 0));
    for (let quarter = 1; quarter <= quarters; quarter += 1) {
      const seconds = (quarter === quarters ? ns : this.fromNs + (quarter / quarters) * (ns - this.fromNs)) / 1e9;
      inside(seconds);
      this.program.outputs(seconds);
      for (let index = 0; index < values.length; index += 1) (values[index] as Float64Array)[quarter] = this.read(3 * index, seconds);
    }
    for (const [index, line] of this.lines.entries()) line.add({ fromNs: this.fromNs, untilNs: ns, values: values[index] as Float64Array });
  }

  /** The states at the begin of a step of fixed length are remembered, for what is inside it. */
  fixedBegins(ns: number): void {
    this.load(this.x[0]);
    this.program.derivative(ns / 1e9, this.x[0], this.slopes[0]);
    this.stepBegins(ns);
  }

  /** The end of a step of fixed length, whose states are there: inside it they are the polynomials that have its values and slopes at both ends (Hermite). */
  fixedEnds(ns: number): void {
    const [x, slopes] = [this.x, this.slopes];
    this.load(x[1]);
    this.program.derivative(ns / 1e9, x[1], slopes[1]);
    const h = (ns - this.fromNs) / 1e9;
    this.stepEnds(ns, (seconds) => {
      const s = (seconds - this.fromNs / 1e9) / h;
      const isEnd = seconds === ns / 1e9;
      this.states.forEach((slot, i) => {
        const [a, b] = [x[0][i] as number, x[1][i] as number];
        const [da, db] = [h * (slopes[0][i] as number), h * (slopes[1][i] as number)];
        this.inner.slots[slot] = isEnd ? b : a + s * (da + s * (3 * (b - a) - 2 * da - db + s * (da + db - 2 * (b - a))));
      });
    });
  }

  /** One step of the fixed method, from the states in their slots (Euler, Heun, Runge and Kutta's classical one). */
  advance(fromNs: number, lengthNs: number): void {
    const [t, h, size] = [fromNs / 1e9, lengthNs / 1e9, this.states.length];
    const [x, trial, k] = [new Float64Array(size), new Float64Array(size), [0, 1, 2, 3].map(() => new Float64Array(size))];
    this.load(x);
    const stage = (index: number, at: number, share: number, before?: Float64Array): Float64Array => {
      for (let i = 0; i < size; i += 1) trial[i] = (x[i] as number) + (before ? h * share * (before[i] as number) : 0);
      this.program.derivative(at, trial, k[index] as Float64Array);
      return k[index] as Float64Array;
    };
    const first = stage(0, t, 0);
    const end = (fromNs + lengthNs) / 1e9;
    let weights: readonly (readonly [Float64Array, number])[];
    if (this.plan.solver.method === 'euler') weights = [[first, 1]];
    else if (this.plan.solver.method === 'heun')
      weights = [
        [first, 1 / 2],
        [stage(1, end, 1, first), 1 / 2],
      ];
    else {
      const second = stage(1, t + h / 2, 1 / 2, first);
      const third = stage(2, t + h / 2, 1 / 2, second);
      weights = [
        [first, 1 / 6],
        [second, 1 / 3],
        [third, 1 / 3],
        [stage(3, end, 1, third), 1 / 6],
      ];
    }
    this.states.forEach((slot, i) => {
      let sum = 0;
      for (const [slope, weight] of weights) sum += weight * (slope[i] as number);
      this.inner.slots[slot] = (x[i] as number) + h * sum;
    });
  }

  private load(into: Float64Array): void {
    this.states.forEach((slot, i) => {
      into[i] = this.inner.slots[slot] as number;
    });
  }
}
