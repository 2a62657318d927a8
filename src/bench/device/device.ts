import path from 'node:path';
import { countOf } from '@/core/bench';
import { Refused, type Registers } from '../modbus';
import { NativeThread } from '../nativeThread';
import { answers, blockBytes, briefWords, commands, hashOf, holding, protocolVersion, registerCount, said, states } from '../protocol';
import { Memory, put32, putNumber, takeNumber } from './memory';
import type { ScanWork } from './scan';
import { type Loaded, Store } from './store';

/** The clock of a stand-in is that of a machine which does other things as well. */
const usualLateMs = 50;

/** Where the registers of `said.brief` stand elsewhere. */
const briefSources = [said.state, said.cycles, said.cycles + 1, said.overruns, said.overruns + 1, said.longestScanUs, said.marks, said.faultSite];

/** Largest package that is taken. */
const mostBytes = 8_000_000;

/** A controller that stands in for a real one: registers that a bench reads and writes, and a thread that runs the build by its own clock. */
export class Device implements Registers {
  private memory = new Memory();
  private readonly store: Store;
  private scan: NativeThread | undefined;
  private loaded: Loaded | undefined;
  private upload: Buffer = Buffer.alloc(0);
  private blocks = 0;

  /** @param folder where it keeps build and parameters; @param speed how many times faster than the wall's its clock goes; @param lateMs what is late by no more than this is caught up; @param machine what its libraries have to be made for */
  constructor(
    folder: string,
    private readonly bundle: string,
    private readonly speed = 1,
    private readonly lateMs = usualLateMs,
    private readonly machine = `${process.platform} ${process.arch}`,
  ) {
    this.store = new Store(folder);
    this.powerOn();
  }

  readInput(at: number, count: number): ArrayLike<number> {
    return this.read('said', at, count);
  }

  /** Input registers are holding registers too, from `said.asHolding` on, so that one request writes inputs and reads outputs. */
  readHolding(at: number, count: number): ArrayLike<number> {
    return at >= said.asHolding ? this.read('said', at - said.asHolding, count) : this.read('holding', at, count);
  }

  private read(kind: 'said' | 'holding', at: number, count: number): ArrayLike<number> {
    if (at + count > registerCount) throw new Refused('no such address');
    const words = this.memory.locked(() => this.memory[kind].slice(at, at + count));
    if (kind === 'said') this.putBrief(words, at);
    return words;
  }

  /** What stands elsewhere, once more before the outputs. */
  private putBrief(words: Uint16Array, at: number): void {
    const { said: registers } = this.memory;
    for (let index = 0; index < briefWords; index += 1) {
      const place = said.brief + index - at;
      if (place >= 0 && place < words.length) words[place] = registers[briefSources[index] as number] as number;
    }
  }

  readCoils(): never {
    throw new Refused('no such address');
  }

  readDiscretes(): never {
    throw new Refused('no such address');
  }

  writeCoils(): never {
    throw new Refused('no such address');
  }

  /** @throws {Refused} where nothing can be written, or not this */
  writeHolding(at: number, values: readonly number[]): void {
    const end = at + values.length;
    if (at >= holding.inputs && end <= holding.inputs + this.inputCount) {
      this.put(at, values);
      this.memory.noteInputs();
    } else if (at >= holding.parameters && end <= holding.parameters + 4 * this.parameterCount) this.setParameters(at, values);
    else if (at === holding.block) this.takeBlock(values);
    else if (at === holding.command && values.length === 1) this.obey(values[0] as number);
    else if (at >= holding.watchdogMs && end <= holding.block) this.put(at, values);
    else throw new Refused('no such address');
  }

  private get inputCount(): number {
    return this.loaded?.header.inputs.length ?? 0;
  }

  private get parameterCount(): number {
    return this.loaded?.header.parameters.length ?? 0;
  }

  private put(at: number, values: readonly number[]): void {
    this.memory.locked(() => this.memory.holding.set(values, at));
  }

  /** Whole numbers of four registers each, within their limits. */
  private setParameters(at: number, values: readonly number[]): void {
    const first = (at - holding.parameters) / 4;
    if (!Number.isInteger(first) || values.length % 4 !== 0) throw new Refused('value not allowed');
    for (let index = 0; index < values.length / 4; index += 1) {
      const parameter = this.loaded?.header.parameters[first + index];
      const value = takeNumber(values, 4 * index);
      if (!parameter || !(value >= (parameter.min ?? Number.NEGATIVE_INFINITY) && value <= (parameter.max ?? Number.POSITIVE_INFINITY)))
        throw new Refused('value not allowed');
    }
    this.put(at, values);
    this.keepParameters();
  }

  private keepParameters(): void {
    const { loaded, memory } = this;
    if (!loaded) return;
    const values = loaded.header.parameters.map((_, index) => takeNumber(memory.holding, holding.parameters + 4 * index));
    for (const [index, value] of values.entries()) putNumber(memory.said, said.parameterValues + 4 * index, value);
    this.store.keepParameters(loaded.header.fingerprint, values);
  }

  private takeBlock([number = 0, ...data]: readonly number[]): void {
    const bytes = Buffer.alloc(2 * data.length);
    for (const [index, word] of data.entries()) bytes.writeUInt16BE(word, 2 * index);
    const at = number * blockBytes;
    const size = this.announcedBytes;
    if (size === 0 || size > mostBytes || at >= size || bytes.length > blockBytes) throw new Refused('value not allowed');
    if (this.upload.length !== size) [this.upload, this.blocks] = [Buffer.alloc(size), 0];
    bytes.copy(this.upload, at, 0, Math.min(bytes.length, size - at));
    this.blocks += 1;
    put32(this.memory.said, said.blocks, this.blocks);
  }

  private get announcedBytes(): number {
    const { holding: registers } = this.memory;
    return (registers[holding.uploadBytes] as number) * 65536 + (registers[holding.uploadBytes + 1] as number);
  }

  private obey(command: number): void {
    const answer = this.answerTo(command);
    this.memory.said[said.answer] = answers[answer];
    this.memory.holding[holding.command] = command;
  }

  private answerTo(command: number): keyof typeof answers {
    const { memory } = this;
    switch (command) {
      case commands.none:
        return 'none';
      case commands.run:
        if (memory.state !== states.stopped || memory.isWanted) return 'not now';
        memory.isWanted = true;
        return 'done';
      case commands.stop:
        // It may not have begun yet.
        if (!memory.isWanted) return 'not now';
        memory.isWanted = false;
        return 'done';
      case commands.clear:
        if (memory.state !== states.fault && memory.state !== states.watchdog) return 'not now';
        memory.isWanted = false;
        memory.state = states.stopped;
        return 'done';
      case commands.designed:
        if (!this.loaded) return 'not now';
        this.putParameters(this.loaded.header.parameters.map((one) => one.start));
        this.keepParameters();
        return 'done';
      case commands.load:
        return this.load();
      case commands.restart:
        this.powerOff();
        this.powerOn();
        return 'done';
      default:
        return 'unknown';
    }
  }

  /** Takes the build that was sent, if it is whole and for this machine. */
  private load(): keyof typeof answers {
    const { memory } = this;
    if (memory.state === states.running || memory.isWanted) return 'not now';
    if (this.upload.length === 0 || this.upload.length !== this.announcedBytes) return 'wrong size';
    const announced = Buffer.alloc(32);
    for (let word = 0; word < 16; word += 1) announced.writeUInt16BE(memory.holding[holding.uploadHash + word] as number, 2 * word);
    const bytes = this.upload;
    if (!hashOf(bytes).equals(announced)) return 'damaged';
    try {
      const { header } = this.store.keep(bytes);
      if (header.machine !== this.machine) return 'not for this controller';
    } catch {
      return 'damaged';
    }
    this.powerOff();
    this.powerOn();
    return 'done';
  }

  /** Everything as it is with the power just back: what was kept is there, nothing runs. */
  private powerOn(): void {
    this.memory = new Memory();
    const { memory } = this;
    [this.upload, this.blocks] = [Buffer.alloc(0), 0];
    memory.said[said.version] = protocolVersion;
    const loaded = this.store.loaded();
    this.loaded = loaded?.header.machine === this.machine ? loaded : undefined;
    memory.state = states.empty;
    if (!this.loaded) return;
    const { header, library } = this.loaded;
    Buffer.from(header.fingerprint, 'hex').forEach((byte, index) => {
      const at = said.fingerprint + (index >> 1);
      memory.said[at] = (memory.said[at] as number) | (index % 2 === 0 ? byte << 8 : byte);
    });
    put32(memory.said, said.madeAt, Math.floor(Date.parse(header.made) / 1000));
    memory.said.set([header.inputs.length, header.outputs.length, header.parameters.length], said.inputs);
    for (const [index, channel] of header.outputs.entries()) memory.said[said.outputValues + index] = countOf(channel, 0);
    this.putParameters(this.store.parameters(header.fingerprint) ?? header.parameters.map((one) => one.start));
    memory.state = states.stopped;
    const work: ScanWork = { buffer: memory.buffer as SharedArrayBuffer, library, header, speed: this.speed, lateMs: this.lateMs };
    this.scan = new NativeThread(path.join(this.bundle), { workerData: work });
    // A library that cannot be loaded, or what ends the thread in another way.
    this.scan.on('error', () => {
      memory.state = states.fault;
    });
  }

  private putParameters(values: readonly number[]): void {
    const { memory } = this;
    memory.locked(() => {
      for (const [index, value] of values.entries()) {
        putNumber(memory.holding, holding.parameters + 4 * index, value);
        putNumber(memory.said, said.parameterValues + 4 * index, value);
      }
    });
  }

  private powerOff(): void {
    this.memory.isToQuit = true;
    this.memory.isWanted = false;
    void this.scan?.terminate();
    this.scan = undefined;
  }

  close(): void {
    this.powerOff();
  }
}
