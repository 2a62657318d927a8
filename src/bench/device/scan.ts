import { workerData } from 'node:worker_threads';
import { countOf, fromCount, type PackageHeader } from '@/core/bench';
import { hostedPlaces, mostMarks } from '@/core/plan';
import { LibraryHost } from '@/server/code/libraryHost';
import { sayLoaded } from '../nativeThread';
import { holding, markEntries, said, states } from '../protocol';
import { Memory, put32, putNumber, takeNumber } from './memory';

/** Cycles before the first real one. */
const warmCycles = 300;

/** What the thread that scans is given. */
export interface ScanWork {
  readonly buffer: SharedArrayBuffer;
  readonly library: string;
  readonly header: PackageHeader;
  /** How many times faster than the wall's its clock goes. */
  readonly speed: number;
  /** What is late by no more than this is caught up. */
  readonly lateMs: number;
}

/** The controller itself: reads its inputs, does what is due, writes its outputs, every cycle by its own clock. */
class Scanner {
  private readonly memory: Memory;
  private readonly host: LibraryHost;
  private readonly values: Float64Array;
  private readonly slots: Float64Array;
  private readonly filtered: Float64Array;
  private readonly cycleNs: number;
  private cycles = 0;
  private overruns = 0;
  private longest = 0;
  private marks = 0;
  /** Nothing of it is seen: it only gets fast. */
  private isWarming = false;

  constructor(private readonly work: ScanWork) {
    const { header } = work;
    this.memory = new Memory(work.buffer);
    this.host = new LibraryHost(work.library);
    this.values = this.host.room(header.room);
    const all = [...header.begun, ...header.tasks.flatMap(({ takes, gives }) => [...takes, ...gives]), ...header.inputs.map((one) => one.slot)];
    this.slots = new Float64Array(Math.max(0, ...all) + 1);
    this.filtered = new Float64Array(header.inputs.length);
    this.cycleNs = header.tasks.reduce((divisor, { periodNs, offsetNs }) => gcd(gcd(divisor, periodNs), offsetNs), 0);
  }

  go(): void {
    const { memory } = this;
    put32(memory.said, said.cycleUs, this.cycleNs / 1000);
    this.warmUp();
    while (!memory.isToQuit) {
      if (!memory.isWanted) memory.waitUntilWanted(100);
      else this.run();
    }
  }

  /** Goes through some cycles that nobody sees, so that the first real one takes no longer than the others. */
  private warmUp(): void {
    this.isWarming = true;
    this.start();
    for (let cycle = 0; cycle < warmCycles && this.isWarming; cycle += 1) {
      this.memory.locked(() => this.readInputs());
      for (let task = 0; task < this.work.header.tasks.length; task += 1) this.task(task, cycle);
    }
    this.isWarming = false;
  }

  /** From the beginning until it is told to stop, fails, or hears nothing any more. */
  private run(): void {
    const { memory } = this;
    const cycleMs = this.cycleNs / 1e6 / this.work.speed;
    this.begin();
    const began = performance.now();
    let skipped = 0;
    for (let cycle = 0; memory.isWanted && !memory.isToQuit && memory.state === states.running; cycle += 1) {
      const due = began + (cycle + skipped) * cycleMs;
      memory.sleep(due - performance.now());
      const lateMs = performance.now() - due;
      if (lateMs > Math.max(cycleMs, this.work.lateMs)) {
        // What could not be done by then is left out, not done in a hurry.
        const left = Math.floor(lateMs / cycleMs);
        skipped += left;
        this.overruns += left;
      }
      this.cycle(cycle);
    }
    // What has failed is not begun again by itself.
    if (memory.state !== states.running) memory.isWanted = false;
    memory.locked(() => this.safe());
  }

  private begin(): void {
    const { memory } = this;
    this.start();
    memory.noteInputs();
    memory.said[said.faultSite] = 0;
    memory.state = states.running;
  }

  /** Everything as at the beginning. */
  private start(): void {
    const { memory, host, work } = this;
    const { begun, starts, parameters, inputs } = work.header;
    begun.forEach((slot, index) => {
      this.slots[slot] = starts[index] as number;
    });
    memory.locked(() => {
      parameters.forEach(({ slot }, index) => {
        this.slots[slot] = takeNumber(memory.holding, holding.parameters + 4 * index);
      });
      inputs.forEach((channel, index) => {
        this.filtered[index] = fromCount(channel, memory.holding[holding.inputs + index] as number);
      });
    });
    host.begin(Float64Array.from(begun, (slot) => this.slots[slot] as number));
    [this.cycles, this.overruns, this.longest, this.marks] = [0, 0, 0, 0];
  }

  private cycle(cycle: number): void {
    const { memory, work } = this;
    const begun = performance.now();
    const watchdogMs = memory.holding[holding.watchdogMs] as number;
    if (watchdogMs > 0 && memory.sinceInputs > watchdogMs) {
      memory.state = states.watchdog;
      return;
    }
    memory.locked(() => this.readInputs());
    const ns = cycle * this.cycleNs;
    for (const [index, { periodNs, offsetNs }] of work.header.tasks.entries()) {
      if (ns < offsetNs || (ns - offsetNs) % periodNs !== 0) continue;
      this.task(index, (ns - offsetNs) / periodNs);
      if (memory.state !== states.running) return;
    }
    if (!this.host.keptToItself) {
      memory.state = states.fault;
      return;
    }
    this.cycles += 1;
    const tookUs = Math.min(65_535, Math.round((performance.now() - begun) * 1000));
    this.longest = Math.max(this.longest, tookUs);
    memory.locked(() => this.writeOutputs(tookUs));
  }

  private readInputs(): void {
    const { memory, work, cycleNs } = this;
    const { inputs, parameters } = work.header;
    for (const [index, channel] of inputs.entries()) {
      const count = memory.holding[holding.inputs + index] as number;
      memory.said[said.inputsSeen + index] = count;
      const value = fromCount(channel, count);
      const share = channel.filterMs > 0 ? 1 - Math.exp(-cycleNs / 1e6 / channel.filterMs) : 1;
      this.filtered[index] = (this.filtered[index] as number) + share * (value - (this.filtered[index] as number));
      this.slots[channel.slot] = share === 1 ? value : (this.filtered[index] as number);
    }
    for (const [index, { slot }] of parameters.entries()) {
      this.slots[slot] = takeNumber(memory.holding, holding.parameters + 4 * index);
      putNumber(memory.said, said.parameterValues + 4 * index, this.slots[slot] as number);
    }
  }

  private task(number: number, hit: number): void {
    const { values, slots, memory, work } = this;
    const { takes, gives } = work.header.tasks[number] as PackageHeader['tasks'][number];
    takes.forEach((slot, index) => {
      values[hostedPlaces.takes + index] = slots[slot] as number;
    });
    this.host.hit(number, hit);
    const fault = values[hostedPlaces.fault] as number;
    if (fault !== 0 && this.isWarming) {
      this.isWarming = false;
      return;
    }
    if (fault !== 0) {
      memory.said[said.faultSite] = fault;
      memory.state = states.fault;
      return;
    }
    gives.forEach((slot, index) => {
      slots[slot] = values[hostedPlaces.takes + takes.length + index] as number;
    });
    const count = Math.min(mostMarks, values[hostedPlaces.marked] as number);
    for (let index = 0; index < count; index += 1) this.mark(values[hostedPlaces.marks + index] as number);
  }

  /** The last states entered and left, in a ring: what, and in which cycle. */
  private mark(what: number): void {
    if (this.isWarming) return;
    const { said: registers } = this.memory;
    const at = said.marks + 1 + 2 * (this.marks % markEntries);
    registers[at] = what;
    registers[at + 1] = this.cycles & 0xffff;
    this.marks += 1;
    registers[said.marks] = this.marks & 0xffff;
  }

  private writeOutputs(tookUs: number): void {
    const { memory, work } = this;
    for (const [index, channel] of work.header.outputs.entries())
      memory.said[said.outputValues + index] = countOf(channel, this.slots[channel.slot] as number);
    put32(memory.said, said.cycles, this.cycles);
    put32(memory.said, said.overruns, this.overruns);
    memory.said[said.lastScanUs] = tookUs;
    memory.said[said.longestScanUs] = this.longest;
  }

  /** Outputs of a controller that does not run. */
  private safe(): void {
    const { memory, work } = this;
    for (const [index, channel] of work.header.outputs.entries()) memory.said[said.outputValues + index] = countOf(channel, 0);
    if (memory.state === states.running) memory.state = states.stopped;
  }
}

function gcd(a: number, b: number): number {
  return b === 0 ? a : gcd(b, a % b);
}

const scanner = new Scanner(workerData as ScanWork);
sayLoaded();
scanner.go();
