/** The least of any run of neighbouring values, each answer by two look-ups in a table of doubling lengths (Bender and Farach-Colton 2000). */
export class RangeLeast {
  private readonly table: Float64Array[];

  constructor(values: Float64Array) {
    this.table = [values];
    for (let width = 1; 2 * width <= values.length; width *= 2) {
      const before = this.table.at(-1) as Float64Array;
      const next = new Float64Array(values.length - 2 * width + 1);
      for (let i = 0; i < next.length; i += 1) next[i] = Math.min(before[i] as number, before[i + width] as number);
      this.table.push(next);
    }
  }

  /** Of the values from `first` up to, but not including, `end`; infinite when there are none. */
  least(first: number, end: number): number {
    if (end <= first) return Number.POSITIVE_INFINITY;
    const level = 31 - Math.clz32(end - first);
    const row = this.table[level] as Float64Array;
    return Math.min(row[first] as number, row[end - (1 << level)] as number);
  }
}

/** Index of the first of some ascending numbers that is not below `t`. */
export function firstFrom(ascending: ArrayLike<number>, t: number): number {
  let [low, high] = [0, ascending.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((ascending[middle] as number) < t) low = middle + 1;
    else high = middle;
  }
  return low;
}
