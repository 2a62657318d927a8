import { readFile } from 'node:fs/promises';
import type { BenchController } from '@/core/project';
import type { Bus } from '../modbus';
import { answers, blockBytes, brief, briefWords, commands, hashOf, holding, packed, said, states } from '../protocol';

/** What a controller says of itself. */
export interface ControllerStatus {
  readonly state: number;
  readonly cycles: number;
  readonly overruns: number;
  readonly longestScanUs: number;
  /** How many states were entered and left, and the place of a run-time error + 1. */
  readonly marks: number;
  readonly faultSite: number;
}

/** @param words from `said.brief` on */
export function statusOf(words: ArrayLike<number>): ControllerStatus {
  const word = (at: number): number => words[at] as number;
  const long = (at: number): number => word(at) * 65_536 + word(at + 1);
  return {
    state: word(brief.state),
    cycles: long(brief.cycles),
    overruns: long(brief.overruns),
    longestScanUs: word(brief.longestScanUs),
    marks: word(brief.marks),
    faultSite: word(brief.faultSite),
  };
}

/** How often it is asked whether something has come about, and how long that may take (ms). */
const [askEveryMs, patienceMs] = [5, 5000];

/** A controller on its bus, before and after a run. */
export class Controller {
  constructor(
    private readonly bus: Bus,
    private readonly of: BenchController,
  ) {}

  async status(): Promise<ControllerStatus> {
    return statusOf(await this.bus.read('input', said.brief, briefWords));
  }

  /** Ready for a run: stopped, with its build and the parameters as designed. @throws Error in words */
  async prepare(): Promise<void> {
    const { program, watchdogMs } = this.of;
    if (!program) return;
    await this.rest();
    if ((await this.fingerprint()) !== program.header.fingerprint || !(await this.hasChannels())) await this.load();
    await this.command(commands.designed, 'to take its parameters as designed');
    await this.bus.write(holding.watchdogMs, [watchdogMs]);
    await this.bus.write(
      holding.inputs,
      program.header.inputs.map(() => 0),
    );
  }

  /** The safe state: nothing runs, all outputs are 0, parameters are as designed. */
  async makeSafe(): Promise<void> {
    if (!this.of.program) return;
    await this.rest();
    if ((await this.status()).state !== states.empty) await this.command(commands.designed, 'to take its parameters as designed');
  }

  /** Stopped, or without a build; what it is in may change at any instant, so it is told until it is so. */
  private async rest(): Promise<void> {
    const began = performance.now();
    for (;;) {
      const { state } = await this.status();
      if (state === states.stopped || state === states.empty) return;
      if (performance.now() - began > patienceMs) throw new Error(`the controller has not stopped within ${patienceMs / 1000} s`);
      await this.bus.write(holding.command, [state === states.running ? commands.stop : commands.clear]);
      await pause();
    }
  }

  private async until(holds: (status: ControllerStatus) => boolean, what: string): Promise<void> {
    const began = performance.now();
    for (;;) {
      const status = await this.status();
      if (holds(status)) return;
      if (performance.now() - began > patienceMs) throw new Error(`the controller has not ${what} within ${patienceMs / 1000} s`);
      await pause();
    }
  }

  private async command(command: number, what: string): Promise<void> {
    await this.bus.write(holding.command, [command]);
    const [answer] = await this.bus.read('input', said.answer, 1);
    if (answer !== answers.done) throw new Error(`the controller refused ${what} (answer ${answerWords(answer)})`);
  }

  private async fingerprint(): Promise<string> {
    const words = await this.bus.read('input', said.fingerprint, 16);
    return words.map((word) => word.toString(16).padStart(4, '0')).join('');
  }

  /** A build that is there already may have other ranges on its channels: what was loaded is known by its hash. */
  private async hasChannels(): Promise<boolean> {
    const { header, library } = this.of.program as NonNullable<BenchController['program']>;
    const wanted = hashOf(packed(header, await readFile(library)));
    const words = await this.bus.read('holding', holding.uploadHash, 16);
    return words.every((word, index) => word === wanted.readUInt16BE(2 * index));
  }

  private async load(): Promise<void> {
    const { header, library } = this.of.program as NonNullable<BenchController['program']>;
    const bytes = packed(header, await readFile(library));
    const hash = hashOf(bytes);
    const words = (from: Buffer): number[] =>
      Array.from({ length: Math.ceil(from.length / 2) }, (_, index) => (from[2 * index] ?? 0) * 256 + (from[2 * index + 1] ?? 0));
    await this.bus.write(holding.uploadBytes, [bytes.length >>> 16, bytes.length & 0xffff, ...words(hash)]);
    for (let block = 0; block * blockBytes < bytes.length; block += 1)
      await this.bus.write(holding.block, [block, ...words(bytes.subarray(block * blockBytes, (block + 1) * blockBytes))]);
    await this.command(commands.load, 'the build');
    await this.until((status) => status.state === states.stopped, 'taken the build');
    // Afterwards it is known again by this.
    await this.bus.write(holding.uploadHash, words(hash));
    if ((await this.fingerprint()) !== header.fingerprint) throw new Error('the controller has another build than the one it was given');
  }
}

function pause(): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, askEveryMs));
}

function answerWords(answer: number | undefined): string {
  return Object.entries(answers).find(([, code]) => code === answer)?.[0] ?? String(answer);
}
