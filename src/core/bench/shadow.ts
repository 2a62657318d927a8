import { type CompareSettings, compareTraces, type TraceComparison } from '@/core/compare';
import { constant, hostedPlaces, type ValueType } from '@/core/plan';
import { Executive, type Experiment, type HandEvent, type Host } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';

/** A signal that a process and its shadow both have. */
export interface ShadowedSignal {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  /** Its slot in the plan of the shadow. */
  readonly slot: number;
}

/** What a plant needs to know to run as a shadow. */
export interface ShadowOrder {
  /** The loop whose plant it is, its controller on a bench. */
  readonly experiment: Experiment;
  readonly signals: readonly ShadowedSignal[];
}

/** Gives the plant what a real controller has written, in place of one of its own. */
class Told implements Host {
  outputs: readonly number[] = [];
  private values = new Float64Array();

  constructor(private readonly from: number) {}

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(): void {
    this.values.fill(0);
  }

  hit(): void {
    this.values[hostedPlaces.fault] = 0;
    this.values[hostedPlaces.marked] = 0;
    this.values.set(this.outputs, this.from);
  }
}

/** How much simulated time is kept of what is recorded (s). */
const keptSeconds = 1;

/** A model of a plant that runs beside the thing itself: driven by what the real controller writes, compared by whoever asks for its values. */
export class Shadow {
  private readonly told: Told;
  private readonly executive: Executive;
  private readonly byHand: HandEvent[] = [];
  /** Why it does not go on. */
  problem = '';

  /** @param outputs that the controller has written at the begin, in the order of the channels */
  constructor(
    private readonly order: ShadowOrder,
    outputs: readonly number[],
  ) {
    const table = order.experiment.hosts?.[0]?.bench;
    if (!table) throw new Error('a shadow needs a loop whose controller is on a bench');
    const { inputs, parameters, outputs: written } = table;
    this.told = new Told(hostedPlaces.takes + inputs.length + parameters.length + 2 * (inputs.length + written.length) + 1);
    this.told.outputs = outputs;
    // Equal plans share one compiled program, and the process may have the same: with something more in it this one is another.
    const own = { ...order.experiment, conditions: [...order.experiment.conditions, constant('LREAL', 0)] };
    this.executive = new Executive(own, this.byHand, 60e9, [this.told]);
    this.problem = this.executive.begin()?.message ?? '';
  }

  /** A free input of the loop changes, with the next cycle. @param input its index in the plan */
  set(input: number, value: number): void {
    this.byHand.push({ k: 'set', input, value, atNs: this.executive.nextHitNs });
  }

  /** Goes on to an instant (ns), with what the controller has written there. */
  goOn(untilNs: number, outputs: readonly number[]): void {
    if (this.problem !== '') return;
    this.told.outputs = outputs;
    this.problem = this.executive.goOn(untilNs)?.message ?? '';
    this.executive.letGo(untilNs / 1e9 - keptSeconds);
  }

  /** Values of the signals that are compared. */
  get values(): number[] {
    return this.order.signals.map(({ slot }) => this.executive.value(slot));
  }
}

/** Instants that are kept; of more every second one is dropped, so that what is told of a long time is told of fewer instants. */
const mostKept = 8000;

/** The courses of a process and of its shadow, at the instants that were told. */
export class ShadowBook {
  private times: number[] = [];
  private process: number[][] = [];
  private model: number[][] = [];
  private everyNth = 1;
  private count = 0;

  constructor(private readonly signals: readonly Pick<ShadowedSignal, 'name' | 'type' | 'unit'>[]) {}

  /** @param seconds later than the last; what is not is left out */
  add(seconds: number, process: readonly number[], model: readonly number[]): void {
    if (seconds <= (this.times.at(-1) ?? Number.NEGATIVE_INFINITY)) return;
    this.count += 1;
    if (this.count % this.everyNth !== 0) return;
    this.times.push(seconds);
    this.process.push([...process]);
    this.model.push([...model]);
    if (this.times.length < mostKept) return;
    this.everyNth *= 2;
    const half = <T>(all: T[]): T[] => all.filter((_, index) => index % 2 === 1);
    [this.times, this.process, this.model] = [half(this.times), half(this.process), half(this.model)];
  }

  /** How the two agree so far. @returns nothing before there is anything to compare */
  compared(settings: CompareSettings): TraceComparison | undefined {
    return this.times.length < 2 ? undefined : compareTraces(this.traceOf(this.process), this.traceOf(this.model), settings);
  }

  private traceOf(rows: readonly (readonly number[])[]): Trace {
    const base = Float64Array.from(this.times);
    const columns = this.signals.map(
      ({ name, type, unit }, index): Column => ({
        name,
        slot: index,
        base: 0,
        between: type === 'LREAL' || type === 'REAL' ? 'straight' : 'held',
        type,
        unit,
        data: Float64Array.from(rows, (row) => row[index] as number),
      }),
    );
    const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
    return { bases: [base], columns, marks, from: this.times[0] as number, until: this.times.at(-1) as number };
  }
}
