import { pathToFileURL } from 'node:url';
import koffi from 'koffi';
import type { UnitToRun } from '@/core/project';
import { Access, addressOf, type Instance, type Library, type Said, type StepEnd, type UnitCalls } from './library';

const callbacks = koffi.struct({
  logger: 'void *',
  allocateMemory: 'void *',
  freeMemory: 'void *',
  stepFinished: 'void *',
  componentEnvironment: 'void *',
});
/** Environment, name, status, category, message. The function has any number of arguments; the first of them is enough for what is only a text. */
const logger = koffi.proto('void', ['void *', 'const char *', 'int', 'const char *', 'const char *', 'void *']);

const doubles = { c: 'double', make: (count: number) => new Float64Array(count) };
const ints = { c: 'int', make: (count: number) => new Int32Array(count) };

/** The functions of a unit after FMI 2.0.4, chapters 2.1 and 4.2 (from memory). */
export class Version2 implements UnitCalls {
  private readonly access: Readonly<Record<string, Access>>;
  private readonly fn: Readonly<Record<'instantiate' | 'setup' | 'enter' | 'exit' | 'step' | 'terminate' | 'free', (...given: unknown[]) => unknown>>;
  private readonly log: ReturnType<typeof koffi.register>;
  private readonly callbacks: unknown;

  constructor(
    library: Library,
    private readonly unit: UnitToRun,
    said: Said,
  ) {
    const whole = new Access(library, 'fmi2', 'Integer', ints, false);
    this.access = {
      Real: new Access(library, 'fmi2', 'Real', doubles, false),
      Boolean: new Access(library, 'fmi2', 'Boolean', ints, false),
      Integer: whole,
      Enumeration: whole,
    };
    this.fn = {
      instantiate: library.func(
        'void *fmi2Instantiate(const char *name, int type, const char *guid, const char *resources, void *callbacks, int visible, int logging)',
      ),
      setup: library.func('int fmi2SetupExperiment(void *c, int hasTolerance, double tolerance, double start, int hasStop, double stop)'),
      enter: library.func('int fmi2EnterInitializationMode(void *c)'),
      exit: library.func('int fmi2ExitInitializationMode(void *c)'),
      step: library.func('int fmi2DoStep(void *c, double at, double size, int noSetBefore)'),
      terminate: library.func('int fmi2Terminate(void *c)'),
      free: library.func('void fmi2FreeInstance(void *c)'),
    };
    this.log = koffi.register((_: unknown, __: unknown, ___: number, ____: unknown, message: string, first: unknown) => {
      said.note(message === '%s' && first ? koffi.decode(first, 'char', -1) : message);
    }, koffi.pointer(logger));
    this.callbacks = koffi.alloc(callbacks, 1);
    koffi.encode(this.callbacks, callbacks, {
      logger: this.log,
      allocateMemory: addressOf('calloc'),
      freeMemory: addressOf('free'),
      stepFinished: null,
      componentEnvironment: null,
    });
  }

  instantiate(name: string): Instance {
    const coSimulation = 1;
    const resources = pathToFileURL(`${this.unit.folder}/resources`).href;
    return this.fn.instantiate(name, coSimulation, this.unit.token, resources, this.callbacks, 0, 0);
  }

  enterInitialization(instance: Instance, startSeconds: number): number {
    return Math.max(this.fn.setup(instance, 0, 0, startSeconds, 0, 0) as number, this.fn.enter(instance) as number);
  }

  exitInitialization(instance: Instance): number {
    return this.fn.exit(instance) as number;
  }

  set(instance: Instance, kind: string, references: Uint32Array, values: readonly number[]): number {
    return (this.access[kind] as Access).set(instance, references, values);
  }

  get(instance: Instance, kind: string, references: Uint32Array, into: number[]): number {
    return (this.access[kind] as Access).get(instance, references, into);
  }

  step(instance: Instance, atSeconds: number, seconds: number): StepEnd {
    return { status: this.fn.step(instance, atSeconds, seconds, 1) as number, wantsEnd: false };
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
}
