/** Least and greatest of blocks of rows, each level over blocks sixteen times as long as the one before. */
interface Level {
  readonly low: Float64Array;
  readonly high: Float64Array;
  /** 1 where a row of the block is undefined. */
  readonly gap: Uint8Array;
}

const bits = 4;
const factor = 1 << bits;
/** Below this many rows a look at each of them is as quick. */
const worthwhile = 20_000;
const pyramids = new WeakMap<Float64Array, readonly Level[]>();

/** Least and greatest of the rows from `start` up to `end`, without those that are undefined; infinite the other way round when there is none. A long column is summed up once. */
export function extremes(data: Float64Array, start: number, end: number): [low: number, high: number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const levels = end - start > 2 * factor && data.length > worthwhile ? levelsOf(data) : [];
  let row = start;
  while (row < end) {
    // The longest block that begins here and ends in time.
    let [shift, at] = [0, -1];
    while (at + 1 < levels.length && (row & ((factor << shift) - 1)) === 0 && row + (factor << shift) <= end) {
      shift += bits;
      at += 1;
    }
    const level = levels[at];
    const [lows, highs] = level ? [level.low, level.high] : [data, data];
    const least = lows[row >> shift] as number;
    const most = highs[row >> shift] as number;
    if (least < low) low = least;
    if (most > high) high = most;
    row += 1 << shift;
  }
  return [low, high];
}

/** From a row whose value is `value`: the first row after it that has another, or `end`. */
export function changeAfter(data: Float64Array, row: number, end: number, value: number): number {
  const levels = data.length > worthwhile ? levelsOf(data) : [];
  let at = row;
  while (at < end) {
    let [shift, level] = [0, -1];
    while (
      level + 1 < levels.length &&
      (at & ((factor << shift) - 1)) === 0 &&
      at + (factor << shift) <= end &&
      isAll(levels[level + 1], at >> (shift + bits), value)
    ) {
      shift += bits;
      level += 1;
    }
    if (shift === 0 && data[at] !== value) return at;
    at += 1 << shift;
  }
  return end;
}

function isAll(level: Level | undefined, block: number, value: number): boolean {
  return level?.low[block] === value && level.high[block] === value && level.gap[block] === 0;
}

function levelsOf(data: Float64Array): readonly Level[] {
  const known = pyramids.get(data);
  if (known) return known;
  const levels: Level[] = [];
  let below: Level = { low: data, high: data, gap: Uint8Array.from(data, (value) => (Number.isNaN(value) ? 1 : 0)) };
  while (below.low.length >= factor) {
    const count = Math.floor(below.low.length / factor);
    const [low, high, gap] = [new Float64Array(count), new Float64Array(count), new Uint8Array(count)];
    for (let block = 0; block < count; block += 1) {
      let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let row = block * factor; row < (block + 1) * factor; row += 1) {
        if ((below.low[row] as number) < least) least = below.low[row] as number;
        if ((below.high[row] as number) > most) most = below.high[row] as number;
        if (below.gap[row] === 1) gap[block] = 1;
      }
      [low[block], high[block]] = [least, most];
    }
    below = { low, high, gap };
    levels.push(below);
  }
  pyramids.set(data, levels);
  return levels;
}
