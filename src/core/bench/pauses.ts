import type { BenchTable } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { exchangeColumns } from './experiment';

/** Exchanges in a block at least, of which the middle one is taken to be in step. */
const leastBlock = 50;

/**
 * How far a bench and its controller were out of step at each exchange of a run: how late the bench was, and how many cycles its controller had done too many or too few, whichever is
 * more. Neither has a clock that the other knows; so the controller counts as in step where it is in the middle of the exchanges around, which also allows for clocks that drift.
 * Times in seconds of the loop.
 */
export class Pauses {
  private readonly times: Float64Array;
  private readonly off: Float64Array;

  /** @param ownCycleNs cycle of the controller; nothing where what it counts as a cycle is its own affair */
  constructor(
    trace: Trace,
    private readonly table: BenchTable,
    ownCycleNs?: number,
  ) {
    const column = (name: string) => trace.columns.find((one) => one.name === name);
    const late = column(exchangeColumns.late);
    const count = late?.data.length ?? 0;
    this.times = (late && trace.bases[late.base]) ?? new Float64Array();
    this.off = Float64Array.from(late?.data ?? []);
    const cycles = column(exchangeColumns.cycles)?.data;
    if (ownCycleNs === undefined || !cycles) return;
    const bus = column('bus fault')?.data;
    const isOn = (exchange: number): boolean => bus === undefined || bus[exchange] === 0;
    for (const run of runsOf(cycles, count, isOn)) this.compare(run, cycles, ownCycleNs / 1e9);
  }

  /** The longest pause in a span, with the exchange before and the one after. */
  longest(from: number, until: number): number {
    const cycle = this.table.cycleNs / 1e9;
    let most = 0;
    for (let at = this.firstFrom(from - cycle); at < this.times.length && (this.times[at] as number) <= until + cycle; at += 1)
      most = Math.max(most, this.off[at] as number);
    return most;
  }

  private firstFrom(t: number): number {
    let [low, high] = [0, this.times.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.times[middle] as number) < t) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** @param run exchanges since the controller began */
  private compare(run: readonly number[], cycles: Float64Array, own: number): void {
    const { cycleNs, speed, latenessNs } = this.table;
    const cycle = cycleNs / 1e9;
    // A pause is caught up in as many exchanges as it lasted; most of a block are out of its reach.
    const block = Math.max(leastBlock, 6 * Math.ceil((latenessNs * speed) / cycleNs));
    const ahead = run.map((exchange) => (cycles[exchange] as number) * own - exchange * cycle);
    for (let from = 0; from < run.length; from += block) {
      const around = ahead.slice(Math.max(0, Math.min(from, run.length - block)), from + block);
      const middle = around.sort((a, b) => a - b)[around.length >> 1] as number;
      for (let at = from; at < Math.min(from + block, run.length); at += 1) {
        const exchange = run[at] as number;
        // In which of its cycles it is asked is chance.
        const apart = Math.abs((ahead[at] as number) - middle) - own;
        this.off[exchange] = Math.max(this.off[exchange] as number, apart);
      }
    }
  }
}

/** Exchanges on a sound bus, apart for each time that the controller has begun. */
function runsOf(cycles: Float64Array, count: number, isOn: (exchange: number) => boolean): number[][] {
  const runs: number[][] = [];
  let before = Number.POSITIVE_INFINITY;
  for (let exchange = 0; exchange < count; exchange += 1) {
    if (!isOn(exchange)) continue;
    const done = cycles[exchange] as number;
    if (done < before) runs.push([]);
    runs.at(-1)?.push(exchange);
    before = done;
  }
  return runs;
}
