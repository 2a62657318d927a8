import { type Band, gapAt, leavesBand } from './figures';
import { Pieces, type Signal } from './pieces';

/** Two signals as they can be drawn: for each of so many columns of equal time, the least and greatest value of each, and whether they part in it. */
export interface DrawnPair {
  readonly low: readonly [Float64Array, Float64Array];
  readonly high: readonly [Float64Array, Float64Array];
  readonly parts: Uint8Array;
}

/** However short, whatever a signal does is in its column; columns in which a signal has no value are NaN. */
export function drawnPair(one: Signal, other: Signal, from: number, until: number, count: number, band: Band): DrawnPair {
  const filled = (): Float64Array => new Float64Array(count).fill(Number.NaN);
  const [low, high]: [[Float64Array, Float64Array], [Float64Array, Float64Array]] = [
    [filled(), filled()],
    [filled(), filled()],
  ];
  const parts = new Uint8Array(count);
  const columnOf = (t: number): number => Math.min(count - 1, Math.max(0, Math.floor(((t - from) / (until - from)) * count)));
  const take = (of: 0 | 1, column: number, value: number): void => {
    if (Number.isNaN(value)) return;
    if (!(value >= (low[of][column] as number))) low[of][column] = value;
    if (!(value <= (high[of][column] as number))) high[of][column] = value;
  };
  const pieces = new Pieces(one, other, from, until);
  for (let found = pieces.next(); found > 0; found = pieces.next())
    for (let k = 0; k < found; k += 1) {
      const [t0, t1] = [pieces.t0[k] as number, pieces.t1[k] as number];
      const [a0, a1, b0, b1] = [pieces.a0[k] as number, pieces.a1[k] as number, pieces.b0[k] as number, pieces.b1[k] as number];
      const [first, last] = [columnOf(t0), columnOf(t1)];
      const edge = (index: number): number => (t1 > t0 ? (from + ((until - from) * index) / count - t0) / (t1 - t0) : 0);
      for (let column = first; column <= last; column += 1) {
        const [begin, end] = [column === first ? 0 : edge(column), column === last ? 1 : edge(column + 1)];
        const [x0, x1, y0, y1] = [along(a0, a1, begin), along(a0, a1, end), along(b0, b1, begin), along(b0, b1, end)];
        take(0, column, x0);
        take(0, column, x1);
        take(1, column, y0);
        take(1, column, y1);
        const [d0, d1] = [gapAt(x0, y0), gapAt(x1, y1)];
        if (parts[column] === 0 && !Number.isNaN(leavesBand(begin, end, x0, x1, d0, d1, band))) parts[column] = 1;
      }
    }
  return { low, high, parts };
}

function along(x: number, y: number, share: number): number {
  return share === 0 ? x : share === 1 ? y : x + share * (y - x);
}
