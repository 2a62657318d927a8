import koffi from 'koffi';
import type { Host } from '@/core/simulate';

const page = 4096;
/** What stands before what a library may write to: it must be there still when a run is over. */
const untouched = 0xa5;

const libc = koffi.load('libc.so.6');
const mmap = libc.func('void *mmap(void *at, size_t length, int protection, int flags, int file, int64_t offset)');
const munmap = libc.func('int munmap(void *at, size_t length)');
const mprotect = libc.func('int mprotect(void *at, size_t length, int protection)');
const [readAndWrite, nothing, privateAndAnonymous] = [3, 0, 0x22];

/** Memory that ends where nothing may be written: a library that goes beyond it ends its process at once. */
class Guarded {
  readonly address: bigint;
  private readonly base: bigint;
  private readonly length: number;
  private readonly slack: Uint8Array;

  constructor(bytes: number) {
    const size = Math.ceil(bytes / 16) * 16;
    const inside = Math.ceil(size / page) * page;
    this.length = inside + 2 * page;
    this.base = koffi.address(mmap(null, this.length, readAndWrite, privateAndAnonymous, -1, 0));
    mprotect(this.base, page, nothing);
    mprotect(this.base + BigInt(page + inside), page, nothing);
    this.address = this.base + BigInt(page + inside - size);
    this.slack = new Uint8Array(koffi.view(this.base + BigInt(page), inside - size)).fill(untouched);
  }

  /** Nothing was written before it. */
  get isWhole(): boolean {
    return this.slack.every((byte) => byte === untouched);
  }

  release(): void {
    munmap(this.base, this.length);
  }
}

/** @throws Error in words */
function opened(file: string): ReturnType<typeof koffi.load> {
  try {
    return koffi.load(file);
  } catch (problem) {
    throw new Error(`the code in ${file} cannot be loaded: ${problem instanceof Error ? problem.message : String(problem)}`);
  }
}

/** A compiled controller in this process (docs/emitted-c.md). What it does wrong may end the process: not for one that others rely on. */
export class LibraryHost implements Host {
  private readonly state: Guarded;
  private readonly library: ReturnType<typeof koffi.load>;
  private readonly beginning: (state: bigint, values: Float64Array) => void;
  private readonly hitting: (state: bigint, task: number, hit: number, values: bigint) => void;
  private exchange: Guarded | undefined;

  /** @throws Error when the file is no such library */
  constructor(file: string) {
    this.library = opened(file);
    this.state = new Guarded(Number(this.library.func('long ovrand_size(void)')()));
    this.beginning = this.library.func('void ovrand_begin(void *state, double *values)');
    this.hitting = this.library.func('void ovrand_hit(void *state, long task, double hit, void *values)');
  }

  room(count: number): Float64Array {
    this.exchange?.release();
    this.exchange = new Guarded(count * 8);
    return new Float64Array(koffi.view(this.exchange.address, count * 8));
  }

  begin(values: Float64Array): void {
    this.beginning(this.state.address, values);
  }

  hit(task: number, hit: number): void {
    this.hitting(this.state.address, task, hit, (this.exchange as Guarded).address);
  }

  /** It has written to nothing but what it was given, as far as that can be seen. */
  get keptToItself(): boolean {
    return this.state.isWhole && (this.exchange?.isWhole ?? true);
  }

  close(): void {
    this.state.release();
    this.exchange?.release();
    this.library.unload();
  }
}
