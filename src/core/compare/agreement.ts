import { type Band, beyond, gapAt, staysInBand } from './figures';
import { Pieces, type Signal } from './pieces';

/** A span of values, both ends included. */
export interface Span {
  readonly low: number;
  readonly high: number;
}

const worthTelling = 0.1;

/** Intervals of values, as they come; one that begins where the last ended goes on with it. */
class Intervals {
  private readonly begins: number[] = [];
  private readonly ends: number[] = [];
  private low = Number.NaN;
  private high = Number.NaN;
  private last = Number.NaN;

  add(x: number, y: number): void {
    if (x !== this.last && !(x >= this.low && x <= this.high)) {
      this.close();
      [this.low, this.high] = [x, x];
    }
    if (x < this.low) this.low = x;
    if (y < this.low) this.low = y;
    if (x > this.high) this.high = x;
    if (y > this.high) this.high = y;
    this.last = y;
  }

  private close(): void {
    if (Number.isNaN(this.low)) return;
    this.begins.push(this.low);
    this.ends.push(this.high);
  }

  /** Those that touch as one, in ascending order. Beginnings and ends may be sorted apart from each other: an interval lies wherever more have begun than ended. */
  merged(): Span[] {
    this.close();
    const [begins, ends] = [Float64Array.from(this.begins).sort(), Float64Array.from(this.ends).sort()];
    const found: Span[] = [];
    let low = begins[0] as number;
    ends.forEach((high, index) => {
      const next = begins[index + 1];
      if (next !== undefined && next <= high) return;
      found.push({ low, high });
      low = next as number;
    });
    return found;
  }
}

/**
 * The longest span of values of the first signal inside which the second never leaves its band: where the one can stand for the other. Exact: a straight stretch that
 * leaves the band counts for the values it goes through outside.
 * @returns undefined when they agree nowhere, or within less than a tenth of what the first goes through, which nobody would rely on
 */
export function agreementOf(one: Signal, other: Signal, from: number, until: number, band: Band): Span | undefined {
  const [agreeing, parting] = [new Intervals(), new Intervals()];
  const pieces = new Pieces(one, other, from, until);
  for (let count = pieces.next(); count > 0; count = pieces.next())
    for (let k = 0; k < count; k += 1) {
      const [x, y] = [pieces.a0[k] as number, pieces.a1[k] as number];
      const [d0, d1] = [gapAt(x, pieces.b0[k] as number), gapAt(y, pieces.b1[k] as number)];
      if (Number.isNaN(d0) || Number.isNaN(d1) || !Number.isFinite(x) || !Number.isFinite(y)) continue;
      if (staysInBand(x, y, d0, d1, band)) agreeing.add(x, y);
      else if (isOutside(x, y, d0, d1, band)) parting.add(x, y);
      else sort(x, y, d0, d1, band, agreeing, parting);
    }
  const agree = agreeing.merged();
  const [first, last] = [agree[0], agree.at(-1)];
  if (!first || !last) return undefined;
  const apart = parting.merged();
  const [low, high] = [Math.min(first.low, apart[0]?.low ?? first.low), Math.max(last.high, apart.at(-1)?.high ?? last.high)];
  const best = longest(agree, apart);
  return best && best.high > best.low && best.high - best.low >= worthTelling * (high - low) ? best : undefined;
}

/** Whether a straight stretch lies outside its band as a whole; where the gap has one sign, what lies beyond the band is least at an end. */
function isOutside(a0: number, a1: number, d0: number, d1: number, band: Band): boolean {
  return d0 * d1 > 0 && beyond(a0, d0, band) > 0 && beyond(a1, d1, band) > 0;
}

/** The values of a stretch that crosses the border of its band, each part to where it belongs. */
function sort(a0: number, a1: number, d0: number, d1: number, band: Band, agreeing: Intervals, parting: Intervals): void {
  let share = 0;
  for (const end of bordersOf(a0, a1, d0, d1, band)) {
    const middle = (share + end) / 2;
    const isApart = beyond(a0 + middle * (a1 - a0), d0 + middle * (d1 - d0), band) > 0;
    (isApart ? parting : agreeing).add(a0 + share * (a1 - a0), end === 1 ? a1 : a0 + end * (a1 - a0));
    share = end;
  }
}

/** Where a straight stretch may cross the border of its band, as shares of it, the end included. */
function bordersOf(a0: number, a1: number, d0: number, d1: number, { absolute, relative }: Band): number[] {
  if (a0 === a1 && d0 === d1) return [1];
  // ±d = absolute ± relative · a: four straight lines, of which each crosses its border once at most.
  const shares = [-1, 1].flatMap((signD) =>
    [-1, 1].flatMap((signA) => {
      const [x, y] = [signD * d0 - absolute - signA * relative * a0, signD * d1 - absolute - signA * relative * a1];
      return (x < 0 && y > 0) || (x > 0 && y < 0) ? [x / (x - y)] : [];
    }),
  );
  return [...new Set([...shares.sort((x, y) => x - y), 1])];
}

/** The longest run of agreeing values without one between them at which the two part. */
function longest(agree: readonly Span[], apart: readonly Span[]): Span | undefined {
  let best: Span | undefined;
  let index = 0;
  for (let k = 0; k <= apart.length; k += 1) {
    const [low, high] = [apart[k - 1]?.high ?? Number.NEGATIVE_INFINITY, apart[k]?.low ?? Number.POSITIVE_INFINITY];
    while (index < agree.length && (agree[index] as Span).high < low) index += 1;
    let found: Span | undefined;
    for (let i = index; i < agree.length && (agree[i] as Span).low <= high; i += 1) {
      const part = { low: Math.max(low, (agree[i] as Span).low), high: Math.min(high, (agree[i] as Span).high) };
      // A value at the border of parting ones belongs to the span only with others beside it.
      if (part.high > part.low || (part.low > low && part.high < high)) found = { low: found?.low ?? part.low, high: part.high };
    }
    if (found && (!best || found.high - found.low > best.high - best.low)) best = found;
  }
  return best;
}
