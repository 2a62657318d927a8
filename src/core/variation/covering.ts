import { Stream, seedOfStream } from '@/core/numeric';

/** Candidates for each row; the one that covers most is taken. */
const candidates = 60;
/** Whole arrays that are made; the smallest is taken. */
const arrays = 8;

/**
 * A covering array: rows of level indices in which every combination of levels of any `strength` quantities occurs. Greedy, row by row, each the best of some
 * candidates that are built quantity by quantity in random order (after D. M. Cohen et al. 1997, IEEE Transactions on Software Engineering 23), then rows that cover
 * nothing of their own are left out; the smallest of some arrays.
 * @param levels how many levels each quantity has
 */
export function coveringArray(levels: readonly number[], strength: number, seed = 0): number[][] {
  if (strength < 1 || strength > levels.length) throw new RangeError('the strength is at least 1 and at most the number of quantities');
  let best: number[][] | undefined;
  for (let round = 0; round < arrays; round += 1) {
    const rows = new Covering(levels, strength, new Stream(seedOfStream(seed, round))).rows();
    if (!best || rows.length < best.length) best = rows;
  }
  return best ?? [];
}

/** Combinations of some columns: which of their level tuples are still missing. */
interface Group {
  readonly columns: readonly number[];
  readonly missing: Uint8Array;
  left: number;
}

class Covering {
  private readonly groups: Group[];
  private readonly ofColumn: readonly (readonly Group[])[];

  constructor(
    private readonly levels: readonly number[],
    strength: number,
    private readonly stream: Stream,
  ) {
    this.groups = combinations(levels.length, strength).map((columns) => {
      const count = columns.reduce((product, column) => product * (levels[column] as number), 1);
      return { columns, missing: new Uint8Array(count).fill(1), left: count };
    });
    this.ofColumn = levels.map((_, column) => this.groups.filter((group) => group.columns.includes(column)));
  }

  rows(): number[][] {
    const rows: number[][] = [];
    while (this.groups.some((group) => group.left > 0)) {
      const row = this.bestRow();
      for (const group of this.groups) {
        const at = indexOf(group.columns, row, this.levels);
        if (group.missing[at] === 1) group.left -= 1;
        group.missing[at] = 0;
      }
      rows.push(row);
    }
    return rows;
  }

  private bestRow(): number[] {
    let best: { row: number[]; gain: number } | undefined;
    for (let i = 0; i < candidates; i += 1) {
      const row = this.candidate();
      const gain = this.groups.reduce((sum, group) => sum + (group.missing[indexOf(group.columns, row, this.levels)] as number), 0);
      if (!best || gain > best.gain) best = { row, gain };
    }
    return best?.row ?? [];
  }

  /** Begins with a tuple that is missing, and gives each further column the level that completes most missing tuples. */
  private candidate(): number[] {
    const { levels, stream } = this;
    const row = new Array<number>(levels.length).fill(-1);
    const open = this.groups.filter((group) => group.left > 0);
    const first = open[Math.floor(stream.next() * open.length)] as Group;
    const wanted = nth(first.missing, Math.floor(stream.next() * first.left));
    let rest = wanted;
    for (const column of [...first.columns].reverse()) {
      row[column] = rest % (levels[column] as number);
      rest = Math.floor(rest / (levels[column] as number));
    }
    const others = levels.map((_, column) => column).filter((column) => row[column] === -1);
    for (let last = others.length - 1; last >= 0; last -= 1) {
      const pick = Math.floor(stream.next() * (last + 1));
      const column = others[pick] as number;
      others[pick] = others[last] as number;
      row[column] = this.bestLevel(column, row);
    }
    return row;
  }

  private bestLevel(column: number, row: number[]): number {
    let [best, most, ties] = [0, -1, 0];
    for (let level = 0; level < (this.levels[column] as number); level += 1) {
      row[column] = level;
      let gain = 0;
      for (const group of this.ofColumn[column] ?? [])
        if (group.columns.every((one) => row[one] !== -1)) gain += group.missing[indexOf(group.columns, row, this.levels)] as number;
      ties = gain === most ? ties + 1 : gain > most ? 1 : ties;
      if (gain > most || (gain === most && this.stream.next() * ties < 1)) [best, most] = [level, Math.max(most, gain)];
    }
    return best;
  }
}

function indexOf(columns: readonly number[], row: readonly number[], levels: readonly number[]): number {
  let index = 0;
  for (const column of columns) index = index * (levels[column] as number) + (row[column] as number);
  return index;
}

function nth(missing: Uint8Array, count: number): number {
  let left = count;
  for (let index = 0; index < missing.length; index += 1) {
    if (missing[index] === 1 && left === 0) return index;
    left -= missing[index] as number;
  }
  return 0;
}

function combinations(count: number, size: number, from = 0): number[][] {
  if (size === 0) return [[]];
  return Array.from({ length: count - from }, (_, index) => from + index).flatMap((first) =>
    combinations(count, size - 1, first + 1).map((rest) => [first, ...rest]),
  );
}
