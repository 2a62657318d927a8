import { Shadow, ShadowBook, type ShadowOrder } from '@/core/bench';
import { signalOf, type TraceComparison, valueAt } from '@/core/compare';
import { type RecordedProcess, recordedProcess } from '@/core/project';
import type { Trace } from '@/core/trace';
import { shadowBand } from './live';

/** How a shadow of a recording stands. */
export interface PlayedStatus {
  readonly state: 'running' | 'ended';
  readonly seconds: number;
  readonly until: number;
  readonly problem: string;
  readonly agreement?: TraceComparison;
}

/** How often it goes on (ms). */
const everyMs = 200;

/** A plant that runs beside a recording of the thing itself, as fast as it was recorded: what the controller wrote then drives it. */
export class PlayedShadow {
  private readonly book: ShadowBook;
  private readonly shadow: Shadow;
  private readonly cycleNs: number;
  private readonly beganMs = performance.now();
  private readonly going: NodeJS.Timeout;
  private atNs = 0;
  readonly ended: Promise<void>;
  private end: () => void = () => undefined;

  private constructor(
    order: ShadowOrder,
    private readonly recording: Trace,
    private readonly columns: RecordedProcess,
    private readonly speed: number,
  ) {
    this.cycleNs = order.experiment.hosts?.[0]?.bench?.cycleNs ?? 1e9;
    this.book = new ShadowBook(columns.compared.map((index) => order.signals[index] as ShadowOrder['signals'][number]));
    this.shadow = new Shadow(order, this.read(columns.outputs, 0));
    this.setInputs(0);
    this.ended = new Promise((resolve) => {
      this.end = resolve;
    });
    this.going = setInterval(() => this.goOn(), everyMs);
  }

  /**
   * @param speed how many times faster than it was recorded
   * @returns a sentence where the recording has not what it takes
   */
  static begin(order: ShadowOrder, recording: Trace, speed: number): PlayedShadow | string {
    const columns = recordedProcess(order, recording);
    return typeof columns === 'string' ? columns : new PlayedShadow(order, recording, columns, speed);
  }

  private read(columns: readonly number[], seconds: number): number[] {
    return columns.map((index) => {
      const column = this.recording.columns[index];
      const value = column ? valueAt(signalOf(column, this.recording), this.recording.from + seconds) : 0;
      // What is missing holds what it would be at rest.
      return Number.isNaN(value) ? 0 : value;
    });
  }

  private setInputs(seconds: number): void {
    const values = this.read(
      this.columns.inputs.map(({ column }) => column),
      seconds,
    );
    this.columns.inputs.forEach(({ input }, index) => {
      this.shadow.set(input, values[index] as number);
    });
  }

  private goOn(): void {
    const wantedNs = Math.min((performance.now() - this.beganMs) * 1e6 * this.speed, this.lengthNs);
    while (this.atNs + this.cycleNs <= wantedNs && this.shadow.problem === '') {
      this.atNs += this.cycleNs;
      const seconds = this.atNs / 1e9;
      this.setInputs(seconds);
      this.shadow.goOn(this.atNs, this.read(this.columns.outputs, seconds));
      const { values } = this.shadow;
      this.book.add(
        seconds,
        this.read(this.columns.signals, seconds),
        this.columns.compared.map((index) => values[index] as number),
      );
    }
    if (this.atNs + this.cycleNs > this.lengthNs || this.shadow.problem !== '') this.stop();
  }

  private get lengthNs(): number {
    return (this.recording.until - this.recording.from) * 1e9;
  }

  get status(): PlayedStatus {
    const agreement = this.book.compared(shadowBand);
    return {
      state: this.isOver ? 'ended' : 'running',
      seconds: this.atNs / 1e9,
      until: this.lengthNs / 1e9,
      problem: this.shadow.problem,
      ...(agreement ? { agreement } : {}),
    };
  }

  private isOver = false;

  stop(): void {
    clearInterval(this.going);
    this.isOver = true;
    this.end();
  }
}
