import { ModelHost, type PlannedBuild } from '@/core/build';
import { signalOf, valueAt } from '@/core/compare';
import type { BackToBack, Parting } from '@/core/evidence';
import { nameKey } from '@/core/language';
import { groupTasks, hostedPlaces, mostMarks, type Slot } from '@/core/plan';
import type { BenchTable } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { isMeasured, resolution } from './channel';
import { exchangeColumns } from './experiment';

/**
 * The controller as the model has it, working cycle by cycle at inputs that are put to it: what a controller on a bench should answer.
 * Its tasks are done in the cycles in which they are due; a filter of an input works as the controller's does.
 */
export class ModelAnswer {
  private readonly host: ModelHost;
  private readonly values: Float64Array;
  private readonly slots: Float64Array;
  private readonly filtered: number[];
  private readonly hits: number[];
  /** The controller's own cycle. */
  readonly cycleNs: number;
  private done = 0;
  /** Where a run-time error ended it, counted from 1; 0 where none did. */
  faultSite = 0;

  /** @param parameters in the order of the build's; @param mark is told of each state entered or left: twice its mark, and 1 more where it was entered */
  constructor(
    private readonly build: PlannedBuild,
    private readonly table: BenchTable,
    private readonly pins: { readonly inputs: readonly number[]; readonly outputs: readonly number[] },
    parameters: readonly number[],
    private readonly mark: (told: number) => void = () => undefined,
  ) {
    const { plan } = build;
    this.host = new ModelHost(build);
    this.values = this.host.room(Math.max(0, ...build.tasks.map(({ takes, gives }) => hostedPlaces.takes + takes.length + gives.length)));
    this.slots = Float64Array.from(plan.slots, ({ start }: Slot) => start);
    this.setParameters(parameters);
    this.host.begin(Float64Array.from(build.begun, (slot) => this.slots[slot] as number));
    this.hits = plan.tasks.map(() => 0);
    this.filtered = [];
    this.cycleNs = baseCycle(build);
  }

  setParameters(values: readonly number[]): void {
    this.build.plan.parameters.forEach((slot, index) => {
      this.slots[slot] = values[index] as number;
    });
  }

  /** Works with these inputs until it has done so many of its cycles in all. @returns outputs */
  goOn(cycles: number, inputs: readonly number[]): number[] {
    while (this.faultSite === 0 && this.done < cycles) {
      this.read(inputs);
      const ns = this.done * this.cycleNs;
      this.build.plan.tasks.forEach(({ periodNs, offsetNs }, task) => {
        if (ns >= offsetNs && (ns - offsetNs) % periodNs === 0) this.hit(task);
      });
      this.done += 1;
    }
    return this.pins.outputs.map((slot) => this.slots[slot] as number);
  }

  private read(inputs: readonly number[]): void {
    for (const [index, channel] of this.table.inputs.entries()) {
      const value = inputs[index] as number;
      const before = this.filtered[index] ?? value;
      const share = channel.filterMs > 0 ? 1 - Math.exp(-this.cycleNs / 1e6 / channel.filterMs) : 1;
      this.filtered[index] = share === 1 ? value : before + share * (value - before);
      this.slots[this.pins.inputs[index] as number] = this.filtered[index] as number;
    }
  }

  private hit(task: number): void {
    const { takes, gives } = this.build.tasks[task] as PlannedBuild['tasks'][number];
    takes.forEach((slot, index) => {
      this.values[hostedPlaces.takes + index] = this.slots[slot] as number;
    });
    this.host.hit(task, this.hits[task] as number);
    this.hits[task] = (this.hits[task] as number) + 1;
    this.faultSite = this.values[hostedPlaces.fault] as number;
    const marked = Math.min(mostMarks, this.values[hostedPlaces.marked] as number);
    for (let index = 0; index < marked; index += 1) this.mark(this.values[hostedPlaces.marks + index] as number);
    gives.forEach((slot, index) => {
      this.slots[slot] = this.values[hostedPlaces.takes + takes.length + index] as number;
    });
  }
}

/** How many cycles of the bench the answer of a controller may come earlier or later than that of the model. */
const slackCycles = 2;

/** How far a measured output may lie from the answer of the model where no tolerance is given, as a share of its range. */
const usualShare = 0.01;

/** What a controller has read and written in a run, exchange by exchange. */
interface Seen {
  readonly read: readonly Float64Array[];
  readonly written: readonly Float64Array[];
  /** How many cycles the controller had done when its outputs were read. */
  readonly cycles: Float64Array;
  /** How long each exchange took (s). */
  readonly took: Float64Array;
  readonly count: number;
}

/**
 * Holds what a controller has written in a run against the answer of the model to what it has read.
 * A controller works by its own clock, and may stand still and catch up, as the bench may. So the model does just as many cycles as the controller had done by each exchange. The inputs
 * of an exchange are written before the outputs are read, and nobody tells in which of the cycles between they came in: each value has to lie, within its tolerance, between what
 * the model says where they came in with the last, and with the first of these, at most two exchanges before or after.
 * @param start values of the parameters at its begin, in the order of the build; those that the run has changed are in its trace
 */
export function answerOf(
  trace: Trace,
  build: PlannedBuild,
  table: BenchTable,
  pins: { readonly inputs: readonly number[]; readonly outputs: readonly number[] },
  start: readonly number[],
  tolerances: ReadonlyMap<string, number>,
): BackToBack {
  const column = (name: string): Float64Array => trace.columns.find((one) => one.name === name)?.data ?? new Float64Array();
  const read = table.inputs.map(({ name }) => column(`${name} as read`));
  const written = table.outputs.map(({ name }) => column(`${name} as written`));
  const [cycles, took] = [column(exchangeColumns.cycles), column(exchangeColumns.took)];
  const seen: Seen = { read, written, cycles, took, count: Math.min(...[cycles, took, ...read, ...written].map((data) => data.length)) };
  const parametersAt = parametersIn(trace, table, start);
  const answers = shares.map((share) => answersAt(() => new ModelAnswer(build, table, pins, start), table, seen, share, parametersAt));
  const parted = partings(answers, table, seen, tolerances);
  return { words: words(parted, table.cycleNs), isExact: false, parted, tried: [] };
}

/** How much of an exchange the controller may have worked with its new inputs. */
const shares = [0, 0.5, 1];

/** The longest time of which all instants of a build's tasks are multiples (ns). */
export function baseCycle({ plan }: PlannedBuild): number {
  return groupTasks(plan).reduce((divisor, { periodNs, offsetNs }) => gcd(gcd(divisor, periodNs), offsetNs), 0);
}

/** What the model answers at each exchange. A controller that has done fewer cycles than before has begun anew. */
function answersAt(
  begin: () => ModelAnswer,
  table: BenchTable,
  { read, cycles, took, count }: Seen,
  share: number,
  parametersAt: (seconds: number) => number[],
): Float64Array[] {
  const answers = table.outputs.map(() => new Float64Array(count));
  let [model, before] = [begin(), 0];
  for (let at = 0; at < count; at += 1) {
    const [last, seconds, done] = [Math.max(0, at - 1), table.cycleNs / 1e9, cycles[at] as number];
    const inputs = (exchange: number): number[] => read.map((data) => data[exchange] as number);
    if (done < before) [model, before] = [begin(), 0];
    const withNew = Math.ceil((share * (took[at] as number) * 1e9) / model.cycleNs);
    model.setParameters(parametersAt(last * seconds));
    model.goOn(Math.max(before, done - withNew), inputs(last));
    model.setParameters(parametersAt(at * seconds));
    for (const [index, value] of model.goOn(done, inputs(at)).entries()) (answers[index] as Float64Array)[at] = value;
    before = done;
  }
  return answers;
}

/** @param answers in each of the ways in which the inputs may have come in, for each output */
function partings(
  answers: readonly (readonly Float64Array[])[],
  table: BenchTable,
  { written, cycles, count }: Seen,
  tolerances: ReadonlyMap<string, number>,
): Parting[] {
  return table.outputs
    .flatMap((channel, index): Parting[] => {
      const usual = isMeasured(channel) ? usualShare * (channel.high - channel.low) : 0;
      const tolerance = Math.max(tolerances.get(nameKey(channel.name)) ?? usual, 2.001 * resolution(channel));
      const ways = answers.map((one) => one[index] as Float64Array);
      const [answer, own] = [ways[0] as Float64Array, written[index] as Float64Array];
      const found = firstApart(ways, own, tolerance, cycles, count);
      if (!found) return [];
      const { cycle, largest } = found;
      const at = (cycle * table.cycleNs) / 1e9;
      return [{ signal: channel.name, at, model: answer[cycle] as number, code: own[cycle] as number, unit: channel.unit, largest }];
    })
    .sort((a, b) => a.at - b.at);
}

/** Parameters at an instant: as at the begin, but for those that have a column. */
function parametersIn(trace: Trace, table: BenchTable, start: readonly number[]): (seconds: number) => number[] {
  const signals = table.parameters.map((name) => {
    const column = trace.columns.find((one) => one.name === name);
    return column && signalOf(column, trace);
  });
  return (seconds) => signals.map((signal, index) => (signal ? valueAt(signal, seconds) : (start[index] as number)));
}

function firstApart(
  ways: readonly Float64Array[],
  written: Float64Array,
  tolerance: number,
  cycles: Float64Array,
  count: number,
): { readonly cycle: number; readonly largest: number } | undefined {
  let first: number | undefined;
  let largest = 0;
  for (let cycle = slackCycles; cycle < count - slackCycles; cycle += 1) {
    // It has done nothing since: off the bus, or switched off.
    if (cycles[cycle] === cycles[cycle - 1]) continue;
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const answer of ways)
      for (let at = cycle - slackCycles; at <= cycle + slackCycles; at += 1) {
        low = Math.min(low, answer[at] as number);
        high = Math.max(high, answer[at] as number);
      }
    const value = written[cycle] as number;
    const gap = Math.max(low - value, value - high, 0);
    if (gap > tolerance) first ??= cycle;
    largest = Math.max(largest, gap);
  }
  return first === undefined ? undefined : { cycle: first, largest };
}

function words(parted: readonly Parting[], cycleNs: number): string {
  const [first] = parted;
  const within = timeWords((slackCycles * cycleNs) / 1e9);
  if (!first) return `The controller answers as the model does at the same inputs, within ${within} and 1 % of its ranges.`;
  const others = parted.length > 1 ? `, and ${parted.length - 1} more after it` : '';
  const value = (number: number): string => `${Number(number.toPrecision(5))} ${first.unit}`.trim();
  return `At the same inputs the controller parts from the model at ${timeWords(first.at)} in ${first.signal} (model ${value(first.model)}, controller ${value(first.code)})${others}.`;
}

function gcd(a: number, b: number): number {
  return b === 0 ? a : gcd(b, a % b);
}
