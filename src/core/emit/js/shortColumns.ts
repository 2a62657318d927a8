import type { SlotNumber } from '@/core/plan';

/** Numbers that short columns take together if they can: 128 KB. */
const nearest = 16_384;
const [fewestRows, mostRows] = [64, 4096];

/** Longer blocks cost fewer calls to copy; of many columns they lie on more pages of memory than the processor keeps at hand (30 states: a quarter slower). */
const fewColumns = 24;

/**
 * The latest rows of a log: columns side by side that lie still in one place, time first, which the recorder copies into the long ones by block. A write into every long column at each row costs
 * a quarter of a run: each goes to another page of memory.
 */
export class ShortColumns {
  private constructor(
    private readonly array: string,
    private readonly nextRow: string,
    readonly slots: readonly SlotNumber[],
    /** Room, a power of two: the engine then sees from a mask that no index is outside. */
    readonly rows: number,
  ) {}

  /**
   * @param array name of the columns in emitted code, and `nextRow` of the number of the next free row
   * @param atOnce rows that must fit, unless they are too many
   */
  static of(array: string, nextRow: string, slots: readonly SlotNumber[], atOnce: number): ShortColumns {
    const near = 2 ** Math.floor(Math.log2(nearest / (slots.length + 1)));
    const most = slots.length < fewColumns ? 512 : 256;
    const needed = 2 ** Math.ceil(Math.log2(atOnce));
    return new ShortColumns(array, nextRow, slots, Math.max(fewestRows, Math.min(most, near), needed > mostRows ? 0 : needed));
  }

  /** From one column to the next: not a power of two, which would send all of them to the same few lines of the processor's cache. */
  get stride(): number {
    return this.rows + 8;
  }

  declared(): string {
    return `const ${this.array}=new Float64Array(${(this.slots.length + 1) * this.stride});`;
  }

  /** A number of the log. @param row emitted code of its row */
  at(column: number, row: string): string {
    return `${this.array}[(${row}&${this.rows - 1})+${column * this.stride}]`;
  }

  /** Writes a row. */
  row(time: string, value: (slot: SlotNumber) => string = (slot) => `v[${slot}]`): string {
    const values = this.slots.map((slot, index) => `${this.array}[j+${(index + 1) * this.stride}]=${value(slot)};`);
    return `const j=${this.nextRow}&${this.rows - 1};${this.array}[j]=${time};${values.join('')}`;
  }
}
