/**
 * A figure that differs from its limit by no more than its own rounding is the limit: an overshoot of 1.05 − 1 is 5 %.
 * @param size of the numbers it was made of, in its unit
 */
export function atLimit(figure: number, limit: number, size: number): number {
  return Math.abs(figure - limit) <= roundingOf(size) ? limit : figure;
}

/** By how much a few operations on numbers of that size may be off. */
export function roundingOf(size: number): number {
  return 8 * Number.EPSILON * size;
}

/** A sum that is off by its last bit only, however many numbers there are (A. Neumaier, ZAMM 54, 1974; from memory). */
export class Sum {
  private sum = 0;
  private lost = 0;

  add(number: number): void {
    const next = this.sum + number;
    this.lost += Math.abs(this.sum) >= Math.abs(number) ? this.sum - next + number : number - next + this.sum;
    this.sum = next;
  }

  get value(): number {
    return Number.isFinite(this.lost) ? this.sum + this.lost : this.sum;
  }
}
