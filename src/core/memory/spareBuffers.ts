/** Memory that was used and may be used again: fresh memory costs more than the numbers written into it. Bounded by numbers, not by pieces. */
export class SpareBuffers {
  private spare: Float64Array[] = [];

  /** @param most numbers (8 bytes each) that are kept together; a piece larger than that is not kept at all */
  constructor(private readonly most: number) {}

  /** So many numbers, of which nothing is known: those of a piece that was given back, or fresh ones. */
  take(numbers: number): Float64Array {
    const fitting = this.spare.findIndex((one) => one.length === numbers);
    return fitting >= 0 ? (this.spare.splice(fitting, 1)[0] as Float64Array) : new Float64Array(numbers);
  }

  /** Gives a piece back, whose giver must not look at it again; the oldest ones are let go where it is too much. */
  give(buffer: ArrayBuffer): void {
    const numbers = new Float64Array(buffer);
    if (numbers.length > this.most || this.spare.some((one) => one.buffer === buffer)) return;
    this.spare.push(numbers);
    while (this.kept > this.most) this.spare.shift();
  }

  /** Numbers that are kept. */
  get kept(): number {
    return this.spare.reduce((sum, one) => sum + one.length, 0);
  }
}
