import { countOf, fromCount, giveTo, type HeldFault, Lane, StatesTold, Stopwatch, takenFrom } from '@/core/bench';
import type { BenchTiming } from '@/core/evidence';
import { hostedPlaces } from '@/core/plan';
import type { BusState } from '@/core/shapes';
import type { BenchTable, Host, HostTable } from '@/core/simulate';
import { timeWords } from '@/core/wording';
import type { BusAct } from '../modbus';
import { briefWords, commands, holding, markEntries, said, states } from '../protocol';
import { type ControllerStatus, statusOf } from './controller';
import type { Line } from './line';
import { placesOf, type RegisterBlock, registerBlocks } from './registerBlocks';

/** Exchanges before time counts, so that the first one takes no longer than the others. */
const warmCycles = 100;

/** How often a connection that is lost is tried anew (ms). */
const retryEveryMs = 1000;

/** How long a controller may take to begin (ms). */
const beginMs = 5000;

interface Options {
  /** The controller runs the build it was given. */
  readonly takesBuild: boolean;
  readonly seed: number;
  /** By hand: what would end a run is told, and the bench goes on. */
  readonly isLive?: boolean;
}

/**
 * A controller on a bench as the executive sees it: at each cycle of the bench it waits for the instant on the wall's clock, puts out the inputs with what is the matter with their channels,
 * and takes the outputs and what the controller says of its states.
 */
export class BusHost implements Host {
  private values = new Float64Array();
  private readonly table: BenchTable;
  private readonly inputLane: Lane;
  private readonly outputLane: Lane;
  private readonly watch: Stopwatch;
  private readonly bed = new Int32Array(new SharedArrayBuffer(4));
  private readonly states: StatesTold;
  private readonly blocks: {
    readonly inputs: readonly RegisterBlock[];
    readonly outputs: readonly RegisterBlock[];
    readonly places: readonly number[];
  };
  private parameters: number[] = [];
  private outputs: readonly number[] = [];
  private sent: readonly number[] = [];
  private zeroMs = 0;
  /** How late the last exchange was, and how long it took, in the time of the loop (s). */
  private late = 0;
  private took = 0;
  private marksSeen = 0;
  private status: ControllerStatus = { state: states.stopped, cycles: 0, overruns: 0, longestScanUs: 0, marks: 0, faultSite: 0 };
  private bus: BusState = 'sound';
  private retryAtMs = 0;
  private isToRecover = false;
  /** What the plant was given last. */
  given: readonly number[] = [];
  /** How often it has begun. */
  begins = 0;
  isConnected = true;
  /** What is wrong, by hand. */
  problem = '';

  constructor(
    host: HostTable,
    private readonly line: Line,
    private readonly options: Options,
  ) {
    const { bench } = host;
    if (!bench) throw new Error('a run on a bench was begun without its wiring');
    this.table = bench;
    this.inputLane = new Lane(bench.inputs, options.seed, 0);
    this.outputLane = new Lane(bench.outputs, options.seed, bench.inputs.length);
    this.watch = new Stopwatch(this.cycleMs * 1000, bench.latenessNs / 1000);
    this.states = new StatesTold(bench);
    const outputs = registerBlocks(bench.outputs);
    this.blocks = { inputs: registerBlocks(bench.inputs), outputs, places: placesOf(outputs) };
    this.outputs = bench.outputs.map(() => 0);
  }

  /** What the controller has read last, and what it has written. */
  get read(): number[] {
    return this.sent.map((count, index) => fromCount(this.table.inputs[index] as BenchTable['inputs'][number], count));
  }

  get written(): number[] {
    return this.outputs.map((count, index) => fromCount(this.table.outputs[index] as BenchTable['outputs'][number], count));
  }

  /** Parameters in force, in the order of the build's. */
  get tuned(): readonly number[] {
    return this.parameters;
  }

  get state(): number {
    return this.status.state;
  }

  /** Cycles that the controller had done since it began, when its outputs were read last. */
  get cycles(): number {
    return this.status.cycles;
  }

  get timing(): BenchTiming {
    return this.watch.figures({ cycles: this.cycles, overruns: this.status.overruns });
  }

  private get cycleMs(): number {
    return this.table.cycleNs / 1e6 / this.table.speed;
  }

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(values: Float64Array): void {
    this.parameters = [...values];
    if (this.options.takesBuild) this.writeParameters();
  }

  hit(_task: number, hit: number): void {
    const { values, table } = this;
    values[hostedPlaces.fault] = 0;
    values[hostedPlaces.marked] = 0;
    const taken = takenFrom(values, table);
    const counts = table.inputs.map((channel, index) => countOf(channel, taken.inputs[index] as number));
    const passed = this.inputLane.pass(counts, taken.inputFault);
    if (hit === 0) this.start(passed);
    else this.keepTime(hit);
    if (this.options.isLive) this.attempt(taken.bus, hit > 0 ? passed : undefined, taken.parameters);
    else this.step(taken.bus, hit > 0 ? passed : undefined, taken.parameters);
    this.give(taken.outputFault);
  }

  /** What is done in a cycle once its time has come. @param counts nothing in the first one, which has exchanged them already */
  private step(bus: BusState, counts: readonly number[] | undefined, parameters: readonly number[]): void {
    this.setBus(bus);
    if (!counts || bus !== 'sound') return;
    const began = performance.now();
    this.tuneTo(parameters);
    this.exchange(counts);
    this.took = ((performance.now() - began) / 1000) * this.table.speed;
  }

  /** The same by hand: a connection that is lost is made again, and nothing ends. */
  private attempt(bus: BusState, counts: readonly number[] | undefined, parameters: readonly number[]): void {
    try {
      if (bus === 'sound' && !this.isConnected && this.bus === 'sound') {
        if (performance.now() < this.retryAtMs) return;
        this.retryAtMs = performance.now() + retryEveryMs;
        this.line.ask({ k: 'connect' });
        this.isConnected = true;
        this.recover();
      }
      if (this.isToRecover) this.recover();
      this.step(bus, counts, parameters);
      this.problem = this.bus === 'sound' ? this.statusProblem() : '';
    } catch (problem) {
      this.isConnected = false;
      this.problem = problem instanceof Error ? problem.message : String(problem);
    }
  }

  /** A controller that has failed, or gone to its safe state, is to begin anew with the next cycle. */
  beginAnew(): void {
    this.isToRecover = true;
  }

  /** The first cycle: inputs first, then the controller begins; time counts from its first answer. */
  private start(counts: readonly number[]): void {
    this.sent = counts;
    for (let cycle = 0; cycle < warmCycles; cycle += 1) this.swap(counts);
    this.run();
    this.exchange(counts);
    this.zeroMs = performance.now();
  }

  /** Has the controller begin, and waits until it has. */
  private run(): void {
    if (this.options.takesBuild) this.line.acts({ k: 'write', at: holding.command, values: [commands.run] });
    const began = performance.now();
    this.takeStatus(this.line.acts(this.statusAct));
    while (!this.hasBegun) {
      if (performance.now() - began > beginMs) throw new RangeError(`the controller has not begun within ${beginMs / 1000} s`);
      Atomics.wait(this.bed, 0, 0, 1);
      this.takeStatus(this.line.acts(this.statusAct));
    }
    this.marksSeen = 0;
    this.begins += 1;
  }

  private get hasBegun(): boolean {
    const { state, cycles } = this.status;
    return state === states.fault || (state === states.running && cycles > 0);
  }

  private keepTime(hit: number): void {
    const due = this.zeroMs + hit * this.cycleMs;
    const early = due - performance.now();
    if (early > 0) Atomics.wait(this.bed, 0, 0, early);
    const lateMs = Math.max(0, performance.now() - due);
    this.late = (lateMs / 1000) * this.table.speed;
    if (!this.watch.began(lateMs * 1000)) return;
    // By hand the clock stands still meanwhile.
    if (this.options.isLive) this.zeroMs += lateMs;
    else
      throw new RangeError(
        `the bench missed its time: a cycle of ${timeWords(this.cycleMs / 1000)} began ${timeWords(Number((lateMs / 1000).toPrecision(3)))} late`,
      );
  }

  /** What is the matter with the bus as a whole begins or ends. */
  private setBus(state: BusState): void {
    if (state === this.bus) return;
    const before = this.bus;
    this.bus = state;
    if (state === 'lost') {
      this.line.ask({ k: 'cut' });
      this.isConnected = false;
    }
    if (state === 'power cycle') {
      this.line.acts({ k: 'write', at: holding.command, values: [commands.restart] });
      this.outputs = this.table.outputs.map((channel) => countOf(channel, 0));
    }
    if (state !== 'sound') return;
    if (before === 'lost') {
      this.line.ask({ k: 'connect' });
      this.isConnected = true;
    }
    if (this.options.takesBuild) this.recover();
  }

  /** Back on the bus: a controller that has gone to its safe state meanwhile begins anew. */
  private recover(): void {
    this.isToRecover = false;
    this.takeStatus(this.line.acts(this.statusAct));
    if (this.status.state === states.running) return;
    this.states.clear();
    if (this.status.state === states.watchdog || this.status.state === states.fault)
      this.line.acts({ k: 'write', at: holding.command, values: [commands.clear] });
    this.line.acts(...this.inputActs(this.sent));
    this.writeParameters();
    this.run();
  }

  private tuneTo(parameters: readonly number[]): void {
    if (!this.options.takesBuild || parameters.every((value, index) => value === this.parameters[index])) return;
    this.parameters = [...parameters];
    this.writeParameters();
  }

  private writeParameters(): void {
    const view = new DataView(new ArrayBuffer(8));
    const values = this.parameters.flatMap((value) => {
      view.setFloat64(0, value);
      return [0, 2, 4, 6].map((at) => view.getUint16(at));
    });
    // Whole numbers of four registers have to go together.
    for (let from = 0; from < values.length; from += 120)
      this.line.acts({ k: 'write', at: holding.parameters + from, values: values.slice(from, from + 120) });
  }

  private inputActs(counts: readonly number[]): BusAct[] {
    return this.blocks.inputs.map(({ at, channels }) => ({ k: 'write', at, values: channels.map((index) => counts[index] ?? 0) }));
  }

  /** What the controller says of itself: one with a program of its own its state and cycles alone. */
  private get statusAct(): BusAct {
    return this.options.takesBuild
      ? { k: 'read', kind: 'input', at: said.brief, count: briefWords }
      : { k: 'read', kind: 'input', at: said.state, count: 3 };
  }

  private takeStatus(words: ArrayLike<number>): void {
    if (this.options.takesBuild) this.status = statusOf(words);
    else this.status = { ...this.status, state: words[0] as number, cycles: (words[1] as number) * 65_536 + (words[2] as number) };
  }

  /** Inputs out, outputs in, with what the controller says of itself. */
  private exchange(counts: readonly number[]): void {
    const began = performance.now();
    this.swap(counts);
    this.checkStatus();
    this.takeMarks();
    this.watch.exchanged((performance.now() - began) * 1000);
  }

  /** The outputs of a build stand behind its status, and come with it. */
  private swap(counts: readonly number[]): void {
    const { options, blocks, table } = this;
    const acts: BusAct[] = options.takesBuild
      ? [{ k: 'read', kind: 'input', at: said.brief, count: said.outputValues - said.brief + table.outputs.length }]
      : [this.statusAct, ...blocks.outputs.map(({ at, count }): BusAct => ({ k: 'read', kind: 'input', at, count }))];
    const words = this.line.acts(...this.inputActs(counts), ...acts);
    const outputs = words.subarray(words.length - table.outputs.length);
    this.outputs = blocks.places.map((place) => outputs[place] as number);
    this.takeStatus(words);
    this.sent = counts;
  }

  private checkStatus(): void {
    const { state, faultSite } = this.status;
    if (this.options.isLive) return;
    if (state === states.fault && faultSite > 0) this.values[hostedPlaces.fault] = faultSite;
    else if (this.statusProblem() !== '') throw new RangeError(this.statusProblem());
  }

  /** What is wrong with the controller by its own account. */
  private statusProblem(): string {
    const { state, overruns } = this.status;
    if (state === states.fault) return 'the controller has a fault';
    if (state === states.watchdog) return 'the watchdog of the controller has run out: it heard no inputs in time';
    if (state !== states.running) return 'the controller does not run any more';
    return overruns > 0 ? `the controller left out ${overruns} of its cycles: they took too long` : '';
  }

  /** The states entered and left since the last time. */
  private takeMarks(): void {
    const { marks: count } = this.status;
    if (this.table.regions.length === 0) return;
    const fresh = (count - this.marksSeen) & 0xffff;
    if (fresh === 0) return;
    if (fresh > markEntries)
      throw new RangeError(`the controller entered and left ${fresh} states in one cycle of the bench, which reads ${markEntries} at most`);
    const ring = this.line.acts({ k: 'read', kind: 'input', at: said.marks + 1, count: 2 * markEntries });
    for (let index = 0; index < fresh; index += 1) this.states.take(ring[2 * ((this.marksSeen + index) % markEntries)] as number, this.values);
    this.marksSeen = count;
  }

  private give(fault: (index: number) => HeldFault): void {
    const { values, table, read, written, late, cycles, took } = this;
    const passed = this.outputLane.pass(this.outputs, fault);
    this.given = passed.map((count, index) => fromCount(table.outputs[index] as BenchTable['outputs'][number], count));
    giveTo(values, table, { outputs: this.given, regions: this.states.regions, read, written, late, cycles, took });
  }
}
