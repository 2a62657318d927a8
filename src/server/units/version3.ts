import koffi from 'koffi';
import type { UnitToRun } from '@/core/project';
import { Access, type Buffers, type Instance, type Library, type Said, type StepEnd, type UnitCalls } from './library';

/** Environment, status, category, message. */
const logger = koffi.proto('void', ['void *', 'int', 'const char *', 'const char *']);

const buffers: Readonly<Record<string, Buffers>> = {
  Float64: { c: 'double', make: (count) => new Float64Array(count) },
  Float32: { c: 'float', make: (count) => new Float32Array(count) },
  Int8: { c: 'int8_t', make: (count) => new Int8Array(count) },
  UInt8: { c: 'uint8_t', make: (count) => new Uint8Array(count) },
  Int16: { c: 'int16_t', make: (count) => new Int16Array(count) },
  UInt16: { c: 'uint16_t', make: (count) => new Uint16Array(count) },
  Int32: { c: 'int32_t', make: (count) => new Int32Array(count) },
  UInt32: { c: 'uint32_t', make: (count) => new Uint32Array(count) },
  Int64: { c: 'int64_t', make: (count) => new BigInt64Array(count) },
  UInt64: { c: 'uint64_t', make: (count) => new BigUint64Array(count) },
  Boolean: { c: 'uint8_t', make: (count) => new Uint8Array(count) },
};

/** The functions of a unit after FMI 3.0.2, chapters 2.2, 2.3 and 4.2 (from memory). Events and early returns are not asked for. */
export class Version3 implements UnitCalls {
  private readonly access = new Map<string, Access>();
  private readonly fn: Readonly<Record<'instantiate' | 'enter' | 'exit' | 'step' | 'terminate' | 'free', (...given: unknown[]) => unknown>>;
  private readonly log: ReturnType<typeof koffi.register>;

  constructor(
    private readonly library: Library,
    private readonly unit: UnitToRun,
    said: Said,
  ) {
    this.fn = {
      instantiate: library.func(
        'void *fmi3InstantiateCoSimulation(const char *name, const char *token, const char *resources, bool visible, bool logging, bool events, bool early, const uint32_t *required, size_t n, void *environment, void *logger, void *update)',
      ),
      enter: library.func('int fmi3EnterInitializationMode(void *c, bool hasTolerance, double tolerance, double start, bool hasStop, double stop)'),
      exit: library.func('int fmi3ExitInitializationMode(void *c)'),
      step: library.func(
        'int fmi3DoStep(void *c, double at, double size, bool noSetBefore, _Out_ bool *event, _Out_ bool *end, _Out_ bool *early, _Out_ double *last)',
      ),
      terminate: library.func('int fmi3Terminate(void *c)'),
      free: library.func('void fmi3FreeInstance(void *c)'),
    };
    this.log = koffi.register((_: unknown, __: number, ___: unknown, message: string) => said.note(message), koffi.pointer(logger));
  }

  instantiate(name: string): Instance {
    const { token, folder } = this.unit;
    return this.fn.instantiate(name, token, `${folder}/resources/`, false, false, false, false, null, 0, null, this.log, null);
  }

  enterInitialization(instance: Instance, startSeconds: number): number {
    return this.fn.enter(instance, false, 0, startSeconds, false, 0) as number;
  }

  exitInitialization(instance: Instance): number {
    return this.fn.exit(instance) as number;
  }

  set(instance: Instance, kind: string, references: Uint32Array, values: readonly number[]): number {
    return this.of(kind).set(instance, references, values);
  }

  get(instance: Instance, kind: string, references: Uint32Array, into: number[]): number {
    return this.of(kind).get(instance, references, into);
  }

  step(instance: Instance, atSeconds: number, seconds: number): StepEnd {
    const [end, last] = [[false], [0]];
    const status = this.fn.step(instance, atSeconds, seconds, true, [false], end, [false], last) as number;
    return { status, wantsEnd: end[0] === true };
  }

  terminate(instance: Instance): void {
    this.fn.terminate(instance);
  }

  free(instance: Instance): void {
    this.fn.free(instance);
  }

  close(): void {
    koffi.unregister(this.log);
  }

  /** Functions are looked up as they are met: a unit need not have variables of every type. Values of an enumeration are Int64. */
  private of(kind: string): Access {
    const type = kind === 'Enumeration' ? 'Int64' : kind;
    const known = this.access.get(type);
    if (known) return known;
    const made = new Access(this.library, 'fmi3', type, buffers[type] as Buffers, true);
    this.access.set(type, made);
    return made;
  }
}
