import { registerCount, said } from '../protocol';

/** Words by which the thread that answers and the thread that scans talk. */
const words = { lock: 0, wanted: 1, quit: 2, inputsAt: 3, count: 4 } as const;

/** What both threads of a controller share: the registers of both kinds, and a few words. */
export class Memory {
  readonly holding: Uint16Array;
  readonly said: Uint16Array;
  private readonly control: Int32Array;
  /** Nobody wakes this: who waits here waits for a time. */
  private readonly bed = new Int32Array(new SharedArrayBuffer(4));

  constructor(readonly buffer = new SharedArrayBuffer(4 * registerCount + 4 * words.count)) {
    this.holding = new Uint16Array(buffer, 0, registerCount);
    this.said = new Uint16Array(buffer, 2 * registerCount, registerCount);
    this.control = new Int32Array(buffer, 4 * registerCount, words.count);
  }

  /** Nothing of the registers changes meanwhile. Both sides copy, and do no more. */
  locked<T>(work: () => T): T {
    while (Atomics.compareExchange(this.control, words.lock, 0, 1) !== 0) Atomics.wait(this.bed, 0, 0, 0.05);
    try {
      return work();
    } finally {
      Atomics.store(this.control, words.lock, 0);
    }
  }

  /** Whether the controller is to run. */
  get isWanted(): boolean {
    return Atomics.load(this.control, words.wanted) === 1;
  }

  set isWanted(on: boolean) {
    Atomics.store(this.control, words.wanted, on ? 1 : 0);
    Atomics.notify(this.control, words.wanted);
  }

  /** Waits until that changes, or some time has gone by (ms). */
  waitUntilWanted(ms: number): void {
    Atomics.wait(this.control, words.wanted, 0, ms);
  }

  get isToQuit(): boolean {
    return Atomics.load(this.control, words.quit) === 1;
  }

  set isToQuit(on: boolean) {
    Atomics.store(this.control, words.quit, on ? 1 : 0);
  }

  /** New inputs have come. */
  noteInputs(): void {
    Atomics.store(this.control, words.inputsAt, clock());
  }

  /** Time since then (ms). */
  get sinceInputs(): number {
    const since = (clock() - Atomics.load(this.control, words.inputsAt)) & 0x7fffffff;
    // They may have come since the clock was read here.
    return since > 0x3fffffff ? 0 : since;
  }

  /** Sleeps (ms). */
  sleep(ms: number): void {
    if (ms > 0) Atomics.wait(this.bed, 0, 0, ms);
  }

  get state(): number {
    return this.said[said.state] as number;
  }

  set state(state: number) {
    this.said[said.state] = state;
  }
}

/** Milliseconds of a clock that nobody sets, as far as 31 bits go: the same in all threads. */
function clock(): number {
  return Number(process.hrtime.bigint() / 1_000_000n) & 0x7fffffff;
}

/** Writes a whole number over two registers. */
export function put32(registers: Uint16Array, at: number, value: number): void {
  registers[at] = Math.floor(value / 65536) & 0xffff;
  registers[at + 1] = value & 0xffff;
}

const exchange = new DataView(new ArrayBuffer(8));

/** Writes a number over four registers (binary64, high word first). */
export function putNumber(registers: Uint16Array, at: number, value: number): void {
  exchange.setFloat64(0, value);
  for (let word = 0; word < 4; word += 1) registers[at + word] = exchange.getUint16(2 * word);
}

export function takeNumber(registers: ArrayLike<number>, at: number): number {
  for (let word = 0; word < 4; word += 1) exchange.setUint16(2 * word, registers[at + word] as number);
  return exchange.getFloat64(0);
}
