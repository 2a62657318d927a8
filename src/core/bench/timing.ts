import { type BenchTiming, lateClasses } from '@/core/evidence';

/** Durations in classes narrow enough for quantiles: 32 to each doubling, so that a quantile is true within 2.2 %. */
class Spread {
  private readonly counts = new Map<number, number>();
  private total = 0;
  longest = 0;

  add(us: number): void {
    const key = Math.ceil(Math.log2(Math.max(1, us)) * 32);
    this.counts.set(key, (this.counts.get(key) ?? 0) + 1);
    this.total += 1;
    this.longest = Math.max(this.longest, us);
  }

  /** The upper end of the class in which a share of all lies. */
  quantile(share: number): number {
    let seen = 0;
    for (const [key, count] of [...this.counts].sort(([a], [b]) => a - b)) {
      seen += count;
      if (seen >= share * this.total) return Math.min(this.longest, Math.round(2 ** (key / 32)));
    }
    return this.longest;
  }
}

/** Takes the times of a bench as they come. */
export class Stopwatch {
  private readonly lateness = new Spread();
  private readonly exchanges = new Spread();
  private readonly late = new Array<number>(lateClasses.length + 1).fill(0);
  private cycles = 0;
  private overruns = 0;

  /** @param cycleUs length of a cycle; @param mostLateUs how late one may begin */
  constructor(
    private readonly cycleUs: number,
    private readonly mostLateUs: number,
  ) {}

  /** A cycle began so late (µs). @returns whether that is too late */
  began(lateUs: number): boolean {
    this.cycles += 1;
    this.lateness.add(lateUs);
    const found = lateClasses.findIndex((end) => lateUs <= end);
    const at = found < 0 ? lateClasses.length : found;
    this.late[at] = (this.late[at] as number) + 1;
    const isOver = lateUs > this.mostLateUs;
    if (isOver) this.overruns += 1;
    return isOver;
  }

  exchanged(us: number): void {
    this.exchanges.add(us);
  }

  figures(controller: { readonly cycles: number; readonly overruns: number }): BenchTiming {
    const whole = Math.round;
    return {
      cycles: this.cycles,
      cycleUs: this.cycleUs,
      late: [...this.late],
      medianLateUs: whole(this.lateness.quantile(0.5)),
      late99Us: whole(this.lateness.quantile(0.99)),
      longestLateUs: whole(this.lateness.longest),
      medianExchangeUs: whole(this.exchanges.quantile(0.5)),
      longestExchangeUs: whole(this.exchanges.longest),
      overruns: this.overruns,
      controllerCycles: controller.cycles,
      controllerOverruns: controller.overruns,
    };
  }
}
