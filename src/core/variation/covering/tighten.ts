import type { Stream } from '@/core/numeric';

/** Cells that are looked at for each pair of levels: a bound for the time, the same on every machine. */
const looksPerPair = 8_000;
/** Changes for which a cell that was changed is left alone. */
const rest = 12;

/**
 * Takes rows away from a covering array of strength 2 as long as the pairs that get lost can be brought back by changing cells of the others: a random missing pair is put where it breaks the fewest
 * pairs, and cells changed of late are left alone (tabu search, after K. J. Nurmela 2004, Discrete Applied Mathematics 138).
 * @param rows a covering array; it is left as it is
 */
export function tightened(rows: readonly (readonly number[])[], levels: readonly number[], stream: Stream): number[][] {
  const [first = 1, second = 1] = [...levels].sort((a, b) => b - a);
  let best = rows.map((row) => [...row]);
  let looks: number | undefined;
  while (best.length > first * second) {
    const smaller = new Pairs(best, levels);
    looks ??= looksPerPair * smaller.kinds;
    smaller.dropLeast();
    const perChange = best.length * levels.length;
    const changes = smaller.mend(Math.floor(looks / perChange), stream);
    if (changes === undefined) break;
    looks -= changes * perChange;
    best = smaller.rows;
  }
  return best;
}

/** How often each pair of levels of each two columns is there, and those that are not. */
class Pairs {
  readonly rows: number[][];
  private readonly width: number;
  /** For two columns a and b, at a · width + b: where the counts of their pairs begin, and by how many one level of a goes on there. */
  private readonly begin: Int32Array;
  private readonly stride: Int32Array;
  private readonly counts: Uint16Array;
  /** Numbers of the missing pairs, and where each stands in that list. */
  private readonly missing: number[] = [];
  private readonly place: Int32Array;
  /** Of each pair its two columns. */
  private readonly columnsOf: readonly (readonly [number, number])[];

  constructor(
    rows: readonly (readonly number[])[],
    private readonly levels: readonly number[],
  ) {
    this.rows = rows.map((row) => [...row]);
    this.width = levels.length;
    this.begin = new Int32Array(this.width ** 2);
    this.stride = new Int32Array(this.width ** 2);
    this.columnsOf = this.lay();
    this.counts = new Uint16Array(this.columnsOf.length);
    this.place = new Int32Array(this.columnsOf.length).fill(-1);
    for (const row of this.rows) this.eachPair(row, (pair) => this.count(pair, 1));
    this.columnsOf.forEach((_, pair) => {
      if (this.counts[pair] === 0 && this.place[pair] === -1) this.note(pair);
    });
  }

  /** How many pairs there are to be had. */
  get kinds(): number {
    return this.columnsOf.length;
  }

  private lay(): (readonly [number, number])[] {
    const columns: (readonly [number, number])[] = [];
    for (let a = 0; a < this.width; a += 1)
      for (let b = a + 1; b < this.width; b += 1) {
        const [there, back] = [a * this.width + b, b * this.width + a];
        this.begin[there] = columns.length;
        this.begin[back] = columns.length;
        this.stride[there] = this.levels[b] as number;
        this.stride[back] = 1;
        for (let pair = 0; pair < (this.levels[a] as number) * (this.levels[b] as number); pair += 1) columns.push([a, b]);
      }
    return columns;
  }

  private pair(a: number, x: number, b: number, y: number): number {
    const [there, back] = [a * this.width + b, b * this.width + a];
    return (this.begin[there] as number) + x * (this.stride[there] as number) + y * (this.stride[back] as number);
  }

  private eachPair(row: readonly number[], take: (pair: number) => void): void {
    for (let a = 0; a < this.width; a += 1) for (let b = a + 1; b < this.width; b += 1) take(this.pair(a, row[a] as number, b, row[b] as number));
  }

  private count(pair: number, more: 1 | -1): void {
    const count = (this.counts[pair] as number) + more;
    this.counts[pair] = count;
    if (count === 0) this.note(pair);
    else if (count === 1 && more === 1 && this.place[pair] !== -1) this.strike(pair);
  }

  private note(pair: number): void {
    this.place[pair] = this.missing.push(pair) - 1;
  }

  private strike(pair: number): void {
    const at = this.place[pair] as number;
    const last = this.missing.pop() as number;
    this.missing[at] = last;
    if (last === pair) this.missing.length = at;
    else this.place[last] = at;
    this.place[pair] = -1;
  }

  /** Drops the row that holds the fewest pairs that no other has. */
  dropLeast(): void {
    const own = this.rows.map((row) => {
      let count = 0;
      this.eachPair(row, (pair) => {
        if (this.counts[pair] === 1) count += 1;
      });
      return count;
    });
    const [row] = this.rows.splice(own.indexOf(Math.min(...own)), 1);
    if (row) this.eachPair(row, (pair) => this.count(pair, -1));
  }

  /** @returns after how many changes nothing was missing any more, if so */
  mend(most: number, stream: Stream): number | undefined {
    const changed = new Int32Array(this.rows.length * this.width).fill(-rest);
    let change = 0;
    for (; change < most && this.missing.length > 0; change += 1) {
      const pair = this.missing[Math.floor(stream.next() * this.missing.length)] as number;
      const [a, b] = this.columnsOf[pair] as readonly [number, number];
      const within = pair - (this.begin[a * this.width + b] as number);
      const [x, y] = [Math.floor(within / (this.levels[b] as number)), within % (this.levels[b] as number)];
      const isFree = (index: number, column: number): boolean => change - (changed[index * this.width + column] as number) >= rest;
      const best = this.cheapestRow(a, x, b, y, isFree, stream);
      const row = this.rows[best];
      if (!row) continue;
      if (row[a] !== x) changed[best * this.width + a] = change;
      if (row[b] !== y) changed[best * this.width + b] = change;
      this.set(row, a, x);
      this.set(row, b, y);
    }
    return this.missing.length === 0 ? change : undefined;
  }

  /** The row in which a pair breaks the fewest others, any of them where several do; −1 where none may be changed. */
  private cheapestRow(a: number, x: number, b: number, y: number, isFree: (row: number, column: number) => boolean, stream: Stream): number {
    let [best, least, ties] = [-1, Number.POSITIVE_INFINITY, 0];
    for (let index = 0; index < this.rows.length; index += 1) {
      const row = this.rows[index] as number[];
      const [isA, isB] = [row[a] !== x, row[b] !== y];
      if ((isA && !isFree(index, a)) || (isB && !isFree(index, b))) continue;
      const lost = (isA ? this.lostBy(row, a, x, b) : 0) + (isB ? this.lostBy(row, b, y, a) : 0);
      if (lost > least) continue;
      ties = lost === least ? ties + 1 : 1;
      if (lost < least || stream.next() * ties < 1) best = index;
      least = lost;
    }
    return best;
  }

  /** How many pairs more would be missing if a cell were changed, but for those with one other column. */
  private lostBy(row: readonly number[], column: number, level: number, but: number): number {
    const { width, begin, stride, counts } = this;
    const before = row[column] as number;
    let lost = 0;
    for (let other = 0; other < width; other += 1) {
      if (other === column || other === but) continue;
      const there = column * width + other;
      const from = (begin[there] as number) + (row[other] as number) * (stride[other * width + column] as number);
      const step = stride[there] as number;
      if (counts[from + before * step] === 1) lost += 1;
      if (counts[from + level * step] === 0) lost -= 1;
    }
    return lost;
  }

  private set(row: number[], column: number, level: number): void {
    const before = row[column] as number;
    if (before === level) return;
    for (let other = 0; other < this.width; other += 1) {
      if (other === column) continue;
      const y = row[other] as number;
      this.count(this.pair(column, before, other, y), -1);
      this.count(this.pair(column, level, other, y), 1);
    }
    row[column] = level;
  }
}
