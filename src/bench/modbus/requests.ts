/** What a device shows to a field bus. Each function throws `Refused` where an address or a value is none of its own. */
export interface Registers {
  /** Bits, as 0 or 1. */
  readCoils(at: number, count: number): readonly number[];
  readDiscretes(at: number, count: number): readonly number[];
  writeCoils(at: number, values: readonly number[]): void;
  /** Words of 16 bits. */
  readHolding(at: number, count: number): ArrayLike<number>;
  readInput(at: number, count: number): ArrayLike<number>;
  writeHolding(at: number, values: readonly number[]): void;
}

/** Exception codes of the specification (V1.1b3, 7). */
export const exceptions = { 'no such function': 1, 'no such address': 2, 'value not allowed': 3, 'device failed': 4 } as const;

/** A request that is answered with an exception. */
export class Refused extends Error {
  constructor(readonly why: keyof typeof exceptions) {
    super(why);
  }
}

/**
 * Answers one request, after MODBUS Application Protocol Specification V1.1b3, chapter 6: functions 1 to 6, 15, 16, 22 and 23, each with the checks of its state diagram.
 * @param request the PDU: function code and data, at least one byte
 * @returns the PDU of the answer, or of the exception
 */
export function answerTo(request: Buffer, registers: Registers): Buffer {
  const code = request[0] as number;
  try {
    const answer = functions.get(code);
    if (!answer) throw new Refused('no such function');
    return Buffer.concat([Buffer.from([code]), answer(new Data(request.subarray(1)), registers)]);
  } catch (problem) {
    return Buffer.from([code | 0x80, exceptions[problem instanceof Refused ? problem.why : 'device failed']]);
  }
}

/** The data of a request, read from its beginning; what is not there is a value that is not allowed. */
class Data {
  private at = 0;

  constructor(private readonly bytes: Buffer) {}

  byte(): number {
    return this.take(1).readUInt8();
  }

  word(): number {
    return this.take(2).readUInt16BE();
  }

  words(count: number): number[] {
    return Array.from({ length: count }, () => this.word());
  }

  take(count: number): Buffer {
    const found = this.bytes.subarray(this.at, this.at + count);
    if (found.length < count) throw new Refused('value not allowed');
    this.at += count;
    return found;
  }

  /** Nothing more may follow. */
  end(): void {
    if (this.at !== this.bytes.length) throw new Refused('value not allowed');
  }
}

/** Quantities are looked at before addresses. */
function quantity(count: number, most: number): number {
  if (count < 1 || count > most) throw new Refused('value not allowed');
  return count;
}

function area(at: number, count: number): void {
  if (at + count > 65_536) throw new Refused('no such address');
}

type Answer = (data: Data, registers: Registers) => Buffer;

const readBits =
  (read: 'readCoils' | 'readDiscretes'): Answer =>
  (data, registers) => {
    const at = data.word();
    const count = quantity(data.word(), 2000);
    data.end();
    area(at, count);
    const bytes = Buffer.alloc(1 + Math.ceil(count / 8));
    bytes[0] = bytes.length - 1;
    registers[read](at, count).forEach((bit, index) => {
      if (bit !== 0) bytes[1 + (index >> 3)] = (bytes[1 + (index >> 3)] as number) | (1 << (index & 7));
    });
    return bytes;
  };

function wordsAnswer(words: ArrayLike<number>): Buffer {
  const bytes = Buffer.alloc(1 + 2 * words.length);
  bytes[0] = 2 * words.length;
  for (let index = 0; index < words.length; index += 1) bytes.writeUInt16BE(words[index] as number, 1 + 2 * index);
  return bytes;
}

const readWords =
  (read: 'readHolding' | 'readInput'): Answer =>
  (data, registers) => {
    const at = data.word();
    const count = quantity(data.word(), 125);
    data.end();
    area(at, count);
    return wordsAnswer(registers[read](at, count));
  };

/** An answer that says two words of the request again. */
function echo(...words: readonly number[]): Buffer {
  const bytes = Buffer.alloc(2 * words.length);
  for (const [index, word] of words.entries()) bytes.writeUInt16BE(word, 2 * index);
  return bytes;
}

const writeCoil: Answer = (data, registers) => {
  const [at, value] = [data.word(), data.word()];
  data.end();
  if (value !== 0 && value !== 0xff00) throw new Refused('value not allowed');
  registers.writeCoils(at, [value === 0 ? 0 : 1]);
  return echo(at, value);
};

const writeRegister: Answer = (data, registers) => {
  const [at, value] = [data.word(), data.word()];
  data.end();
  registers.writeHolding(at, [value]);
  return echo(at, value);
};

const writeManyCoils: Answer = (data, registers) => {
  const at = data.word();
  const count = quantity(data.word(), 1968);
  const bytes = data.byte();
  if (bytes !== Math.ceil(count / 8)) throw new Refused('value not allowed');
  const bits = data.take(bytes);
  data.end();
  area(at, count);
  registers.writeCoils(
    at,
    Array.from({ length: count }, (_, index) => ((bits[index >> 3] as number) >> (index & 7)) & 1),
  );
  return echo(at, count);
};

const writeManyRegisters: Answer = (data, registers) => {
  const at = data.word();
  const count = quantity(data.word(), 123);
  if (data.byte() !== 2 * count) throw new Refused('value not allowed');
  const words = data.words(count);
  data.end();
  area(at, count);
  registers.writeHolding(at, words);
  return echo(at, count);
};

const maskRegister: Answer = (data, registers) => {
  const [at, and, or] = [data.word(), data.word(), data.word()];
  data.end();
  const before = registers.readHolding(at, 1)[0] as number;
  registers.writeHolding(at, [(before & and) | (or & ~and & 0xffff)]);
  return echo(at, and, or);
};

/** Writes first, then reads. */
const readAndWrite: Answer = (data, registers) => {
  const readAt = data.word();
  const readCount = quantity(data.word(), 125);
  const writeAt = data.word();
  const writeCount = quantity(data.word(), 121);
  if (data.byte() !== 2 * writeCount) throw new Refused('value not allowed');
  const words = data.words(writeCount);
  data.end();
  area(readAt, readCount);
  area(writeAt, writeCount);
  registers.writeHolding(writeAt, words);
  return wordsAnswer(registers.readHolding(readAt, readCount));
};

const functions: ReadonlyMap<number, Answer> = new Map([
  [1, readBits('readCoils')],
  [2, readBits('readDiscretes')],
  [3, readWords('readHolding')],
  [4, readWords('readInput')],
  [5, writeCoil],
  [6, writeRegister],
  [15, writeManyCoils],
  [16, writeManyRegisters],
  [22, maskRegister],
  [23, readAndWrite],
]);
