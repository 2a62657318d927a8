import koffi from 'koffi';

/** A loaded library of a unit. */
export type Library = ReturnType<typeof koffi.load>;

/** An instance of a unit, as its library knows it. */
export type Instance = unknown;

/** What both versions of the standard let an importer do with an instance. Numbers given back are statuses: 0 ok, 1 warning; all else ends the run. */
export interface UnitCalls {
  /** @returns nothing when it refuses */
  instantiate(name: string): Instance;
  /** From here on start values are set. */
  enterInitialization(instance: Instance, startSeconds: number): number;
  exitInitialization(instance: Instance): number;
  set(instance: Instance, kind: string, references: Uint32Array, values: readonly number[]): number;
  get(instance: Instance, kind: string, references: Uint32Array, into: number[]): number;
  step(instance: Instance, atSeconds: number, seconds: number): StepEnd;
  terminate(instance: Instance): void;
  free(instance: Instance): void;
  /** Nothing is called any more. */
  close(): void;
}

/** How a step ended. */
export interface StepEnd {
  readonly status: number;
  /** The unit wants the run to end here. */
  readonly wantsEnd: boolean;
}

/** Buffers for the values of a type of the standard. */
export interface Buffers {
  /** Type of C. */
  readonly c: string;
  readonly make: (
    count: number,
  ) => Float64Array | Float32Array | Int32Array | Uint32Array | Int16Array | Uint16Array | Int8Array | Uint8Array | BigInt64Array | BigUint64Array;
}

/** What a unit says by its logger: the last of it is told when it fails. */
export class Said {
  last = '';

  note(text: unknown): void {
    if (typeof text === 'string' && text.trim() !== '') this.last = text.trim();
  }
}

/** Reads or sets the variables of one type. */
export class Access {
  private readonly getting: (instance: Instance, references: Uint32Array, count: number, values: unknown, valueCount?: number) => number;
  private readonly setting: (instance: Instance, references: Uint32Array, count: number, values: unknown, valueCount?: number) => number;

  /**
   * @param counts the functions are also told how many values there are (version 3)
   * @param buffers of the type
   */
  constructor(
    library: Library,
    prefix: string,
    type: string,
    private readonly buffers: Buffers,
    private readonly counts: boolean,
  ) {
    const more = counts ? ', size_t values' : '';
    this.getting = library.func(`int ${prefix}Get${type}(void *c, const uint32_t *r, size_t n, _Out_ ${buffers.c} *v${more})`);
    this.setting = library.func(`int ${prefix}Set${type}(void *c, const uint32_t *r, size_t n, const ${buffers.c} *v${more})`);
  }

  get(instance: Instance, references: Uint32Array, into: number[]): number {
    const { length } = references;
    const values = this.buffers.make(length);
    const status = this.getting(instance, references, length, values, ...(this.counts ? [length] : []));
    for (let index = 0; index < length; index += 1) into[index] = Number(values[index]);
    return status;
  }

  set(instance: Instance, references: Uint32Array, given: readonly number[]): number {
    const { length } = references;
    const values = this.buffers.make(length);
    const isBig = values instanceof BigInt64Array || values instanceof BigUint64Array;
    given.forEach((value, index) => {
      values[index] = isBig ? BigInt(Math.round(value)) : value;
    });
    return this.setting(instance, references, length, values, ...(this.counts ? [length] : []));
  }
}

const libc = koffi.load('libc.so.6');
const dlsym = libc.func('void *dlsym(void *from, const char *name)');

/** Address of a function of the C library. */
export function addressOf(name: string): unknown {
  return dlsym(null, name);
}
