import type { MessagePort } from 'node:worker_threads';
import type { BusAct } from '../modbus';

/** Words by which the two ends of a line talk: whose turn it is, and how many registers were read. */
const words = { turn: 0, count: 1 } as const;
const turns = { asked: 0, done: 1, refused: 2 } as const;
/** How long it is waited for an answer at a time (ms). */
const turnMs = 50;
/** Room for what one request reads, and for a sentence. */
const room = 4096;

/** Memory that both ends of a line share. */
export interface LineMemory {
  readonly control: SharedArrayBuffer;
  readonly registers: SharedArrayBuffer;
}

export function lineMemory(): LineMemory {
  return { control: new SharedArrayBuffer(16), registers: new SharedArrayBuffer(2 * room) };
}

/** What is asked over a line: acts on the bus, that the connection be cut, or that it be made again. */
export type LineRequest = { readonly k: 'acts'; readonly acts: readonly BusAct[] } | { readonly k: 'cut' } | { readonly k: 'connect' };

/** The end of a thread that cannot wait for anything but by standing still. */
export class Line {
  private readonly control: Int32Array;
  private readonly registers: Uint16Array;

  constructor(
    memory: LineMemory,
    private readonly port: MessagePort,
    /** How long an answer may take (ms). */
    private readonly patienceMs: number,
  ) {
    this.control = new Int32Array(memory.control);
    this.registers = new Uint16Array(memory.registers);
  }

  /** @returns what was read, good until the next request; @throws RangeError in words */
  ask(request: LineRequest): Uint16Array {
    const { control, registers } = this;
    Atomics.store(control, words.turn, turns.asked);
    this.port.postMessage(request);
    if (!this.hasAnswer()) throw new RangeError('the controller did not answer in time');
    const count = control[words.count] as number;
    if (Atomics.load(control, words.turn) === turns.refused) throw new RangeError(String.fromCharCode(...registers.subarray(0, count)));
    return registers.subarray(0, count);
  }

  /** Waits in turns: while this process itself stands still the controller is not late, and of such a time one turn counts. */
  private hasAnswer(): boolean {
    for (let waitedMs = 0; waitedMs < this.patienceMs; waitedMs += turnMs)
      if (Atomics.wait(this.control, words.turn, turns.asked, turnMs) !== 'timed-out') return true;
    return false;
  }

  acts(...acts: BusAct[]): Uint16Array {
    return this.ask({ k: 'acts', acts });
  }
}

/** The other end: does what it is asked and answers. */
export function serveLine(memory: LineMemory, port: MessagePort, perform: (request: LineRequest) => Promise<readonly number[]>): void {
  const control = new Int32Array(memory.control);
  const registers = new Uint16Array(memory.registers);
  const answer = (turn: number, told: readonly number[]): void => {
    registers.set(told.slice(0, room));
    control[words.count] = Math.min(room, told.length);
    Atomics.store(control, words.turn, turn);
    Atomics.notify(control, words.turn);
  };
  port.on('message', (request: LineRequest) => {
    perform(request).then(
      (told) => answer(turns.done, told),
      (problem: unknown) =>
        answer(
          turns.refused,
          Array.from(problem instanceof Error ? problem.message : String(problem), (letter) => letter.charCodeAt(0)),
        ),
    );
  });
}
