import type { Stream } from '@/core/numeric';

/** Candidates for each row; the one that covers most is taken. */
const candidates = 8;

/** Levels of some columns that go together or do not. */
export interface Rule {
  readonly columns: readonly number[];
  /** @param row level indices; those of its columns are there */
  readonly allows: (row: readonly number[]) => boolean;
}

/** A cell that has no level yet. */
export const open = -1;

/**
 * A covering array built row by row, each the best of some candidates, in which columns get their levels in random order (after D. M. Cohen et al. 1997, IEEE Transactions on Software
 * Engineering 23). Tuples that no row may have, because of the rules, are left out.
 * @param levels how many levels each column has
 * @param start rows to begin with, whose open cells are filled
 */
export function greedyArray(
  levels: readonly number[],
  strength: number,
  stream: Stream,
  start: readonly (readonly number[])[] = [],
  rules: readonly Rule[] = [],
): number[][] {
  return new Covering(levels, strength, stream, rules).rows(start);
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
    private readonly rules: readonly Rule[],
  ) {
    this.groups = combinations(levels.length, strength).map((columns) => {
      const count = columns.reduce((product, column) => product * (levels[column] as number), 1);
      return { columns, missing: new Uint8Array(count).fill(1), left: count };
    });
    this.ofColumn = levels.map((_, column) => this.groups.filter((group) => group.columns.includes(column)));
    if (rules.length > 0) this.leaveOutImpossible();
  }

  rows(start: readonly (readonly number[])[]): number[][] {
    const rows = start.map((row) => this.cover(this.filled([...row])));
    while (this.groups.some((group) => group.left > 0)) rows.push(this.cover(this.bestRow()));
    return rows;
  }

  private cover(row: number[]): number[] {
    for (const group of this.groups) {
      const at = indexOf(group.columns, row, this.levels);
      if (group.missing[at] === 1) group.left -= 1;
      group.missing[at] = 0;
    }
    return row;
  }

  private leaveOutImpossible(): void {
    for (const group of this.groups)
      group.missing.forEach((_, tuple) => {
        if (this.completable(this.rowOf(group, tuple))) return;
        group.missing[tuple] = 0;
        group.left -= 1;
      });
  }

  /** A row that has but one tuple. */
  private rowOf({ columns }: Group, tuple: number): number[] {
    const row = new Array<number>(this.levels.length).fill(open);
    let rest = tuple;
    for (const column of [...columns].reverse()) {
      row[column] = rest % (this.levels[column] as number);
      rest = Math.floor(rest / (this.levels[column] as number));
    }
    return row;
  }

  /** Whether the open cells of a row can be filled so that all rules allow it. */
  private completable(row: number[]): boolean {
    const isSet = (column: number): boolean => row[column] !== open;
    if (this.rules.some((rule) => rule.columns.every(isSet) && !rule.allows(row))) return false;
    const column = this.rules.flatMap((rule) => rule.columns).find((one) => !isSet(one));
    if (column === undefined) return true;
    for (let level = 0; level < (this.levels[column] as number); level += 1) {
      row[column] = level;
      const found = this.completable(row);
      row[column] = open;
      if (found) return true;
    }
    return false;
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

  /** Begins with a tuple that is missing. */
  private candidate(): number[] {
    const missing = this.groups.filter((group) => group.left > 0);
    const first = missing[Math.floor(this.stream.next() * missing.length)] as Group;
    return this.filled(this.rowOf(first, nth(first.missing, Math.floor(this.stream.next() * first.left))));
  }

  /** Gives each open column, in random order, the level that completes most missing tuples. */
  private filled(row: number[]): number[] {
    const { levels, stream } = this;
    const others = levels.flatMap((count, column) => ((row[column] ?? open) === open || (row[column] as number) >= count ? [column] : []));
    for (const column of others) row[column] = open;
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
      if (this.rules.length > 0 && !this.completable(row)) continue;
      let gain = 0;
      for (const group of this.ofColumn[column] ?? [])
        if (group.columns.every((one) => row[one] !== open)) gain += group.missing[indexOf(group.columns, row, this.levels)] as number;
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
