import { Recent } from '@/core/memory';
import { type Numeric, numeric, warmUp } from '@/core/numeric';
import type { Node, Plan } from '@/core/plan';
import type { ShortColumns } from './shortColumns';
import { emitProgram, type ProgramTexts } from './text';

/** A run-time error inside emitted code: which site of the plan, and what happened. */
export class RunFault extends Error {
  constructor(
    readonly site: number,
    readonly what: string,
  ) {
    super(what);
  }
}

export interface MarkSink {
  mark(state: number, entered: boolean): void;
  /** Where values go out to a host and come back. */
  values(host: number): Float64Array;
  /** Lets a host do a task at a hit, with what stands in its values. */
  hosted(host: number, task: number, hit: number): void;
}

/** The specialised code of one plan, over slots of its own. Times are nanoseconds unless they are called seconds. */
export interface Program {
  readonly slots: Float64Array;
  /** Continuous outputs and free inputs at the present states, stored into their slots. */
  outputs(seconds: number): void;
  /** The same at the same instant, after stimuli or tasks have changed something: only what follows from that. */
  follow(seconds: number): void;
  /** True when something from outside that `outputs` or the continuous log reads (commands of tasks, stimuli) has changed since `outputs` was last called. */
  stale(): boolean;
  /** Right-hand side for solvers that work on arrays. */
  derivative(seconds: number, x: Float64Array, dx: Float64Array): void;
  /**
   * `count` Runge–Kutta 4 steps (Kutta 1901) from `fromNs`, writing a row of the continuous log before every step but the first.
   * @returns the next free row
   */
  advance(fromNs: number, stepNs: number, count: number, row: number): number;
  /** Runs task `index` at its hit number `hit`. */
  readonly tasks: readonly ((hit: number) => void)[];
  /** Writes row `row` of the continuous log from the slots. */
  logRow(row: number, seconds: number): void;
  /** True when a row of the continuous log equals the one before it. */
  sameRows(row: number): boolean;
  /** The latest rows of the continuous log. */
  readonly log: ShortLog;
  /** Of each task group: writes one more row of its latest hits from the slots. */
  readonly hits: readonly ((seconds: number) => void)[];
  /** Of each task group, its latest hits. */
  readonly hitLogs: readonly ShortLog[];
  /** How many rows of each of them are written; who takes them sets this to zero. */
  readonly recentRows: Int32Array;
  /** Begins a stretch of a run, which must be that of the last to whom the program was given, @throws otherwise: who is told when a chart's state is entered or left, and the texts of its plan, of which the fast way is made if it goes on for long. */
  begin(marks: MarkSink, texts: ProgramTexts, tenancy: number): void;
  /** Counts who has had the program: its slots are those of the last. */
  tenancy: number;
  /** Ends it: a program is kept for the runs to come, and must keep nothing of this one, of its plan or its trace. */
  end(): void;
  /** The present instant (ns), the next free row of the continuous log, why `cruise` came back, and where the fixed step began that is or was the last under way (ns). */
  readonly clock: Float64Array;
  /** Of each task group: when it is due next (ns), and how many hits it had. */
  readonly due: Float64Array;
  readonly counts: Float64Array;
  /** For each decision of the plan (`decisionsOf`) how often it came out TRUE, then FALSE; empty without coverage. */
  readonly coverage: Uint32Array;
  /**
   * Goes on from hit to hit with whole fixed steps, from an instant on the grid that has been dealt with, as long as the next hit lies before `limit` (ns).
   * `clock[2]` then says: 0 the limit is reached or a short log is full; 1 the value `wait` (or none, −1) became TRUE at this instant, before its tasks;
   * 2 a state is no longer finite; 3 nothing, but other work may be done before it is called again.
   */
  cruise(limit: number, wait: number): void;
  /** For each crossing of the plan: its condition at the present values, and what it sets. */
  readonly crossings: readonly { holds(seconds: number): number; apply(seconds: number): void }[];
  /** Values of further expressions (waits of a script, start values), by their index. */
  readonly values: readonly ((seconds: number) => number)[];
}

/** Columns of a log, for so many rows, that are taken over before they are full: the time (s), then its slots. */
export interface ShortLog {
  readonly columns: readonly Float64Array[];
  readonly rows: number;
}

/** A program in the hands of a run. */
export interface Tenancy {
  readonly program: Program;
  readonly texts: ProgramTexts;
  readonly tenancy: number;
}

/** What the text gives; the rest is put together here. */
interface Compiled extends Omit<Program, 'begin' | 'end' | 'tenancy'> {
  readonly recentLog: Float64Array;
  readonly recentHits: readonly Float64Array[];
  listen(marks: MarkSink): void;
  own(): unknown;
}

type Factory = (N: Numeric, F: typeof fail, own?: unknown) => unknown;

/** What is replaced once a run has gone on for some hits. */
type Stretch = Pick<Compiled, 'advance' | 'cruise' | 'listen'>;

/** Compiled programs by their text: a plan stays compiled, and hot, for all runs of a worker. */
const programs = new Recent<Program>(1_500_000);

/** Calls of `advance` and `cruise` that go over arrays. Most of a program's text is its fast way from hit to hit, and what looks at single instants never comes to it. */
const coldCalls = 16;

/**
 * Compiles a plan to JavaScript, specialised: states and intermediate values live in local variables and the four evaluations of
 * Runge–Kutta 4 are inlined (docs/decisions/emitted-code.md), as soon as a run goes on for more than a few hits. Needs a context that allows evaluation.
 *
 * Equal plans share one program and its slots, because fresh closures would start cold; it is reset here, so a program
 * must be done with before the same plan is compiled again. A run that goes on nevertheless is refused by `begin`.
 * @param extra further expressions to evaluate on the same slots
 * @param coverage count the outcomes of all decisions
 * @returns the program, and the texts and the tenancy it wants at the begin of each stretch
 */
export function compileProgram(plan: Plan, extra: readonly Node[], coverage = false): Tenancy {
  const texts = textsOf(plan, extra, coverage);
  let program = programs.get(texts.program);
  if (!program) {
    program = built(texts);
    programs.set(texts.program, program);
  }
  for (let slot = 0; slot < plan.slots.length; slot += 1) program.slots[slot] = plan.slots[slot]?.start ?? 0;
  program.coverage.fill(0);
  program.recentRows.fill(0);
  program.tenancy += 1;
  return { program, texts, tenancy: program.tenancy };
}

function built(texts: ProgramTexts): Program {
  warmUp();
  const cold = factory(texts.program)(numeric, fail) as Compiled;
  let way: Stretch = cold;
  let inUse: ProgramTexts | undefined;
  let left = coldCalls;
  const count = (): void => {
    left -= 1;
    if (left > 0 || !inUse) return;
    way = fastWay(inUse, cold);
    program.advance = way.advance;
    program.cruise = way.cruise;
  };
  const program: Program = {
    ...cold,
    tenancy: 0,
    begin: (marks, own, tenancy) => {
      if (tenancy !== program.tenancy) throw new Error('this run cannot go on: another run of the same plan was begun in its place');
      inUse = own;
      way.listen(marks);
    },
    end: () => {
      inUse = undefined;
      way.listen(nobody);
    },
    log: shortLog(cold.recentLog, texts.log),
    hitLogs: texts.hits.map((columns, group) => shortLog(cold.recentHits[group] as Float64Array, columns)),
    advance: (fromNs, stepNs, steps, row) => {
      count();
      return cold.advance(fromNs, stepNs, steps, row);
    },
    cruise: (limit, wait) => {
      count();
      cold.cruise(limit, wait);
    },
  };
  return program;
}

/** Listens to nothing. */
export const nobody: MarkSink = { mark: () => undefined, values: () => new Float64Array(), hosted: () => undefined };

function shortLog(memory: Float64Array, { slots, rows, stride }: ShortColumns): ShortLog {
  const columns = Array.from({ length: slots.length + 1 }, (_, column) => memory.subarray(column * stride, column * stride + rows));
  return { columns, rows };
}

function fastWay(texts: ProgramTexts, cold: Compiled): Stretch {
  const text = texts.stretch();
  return text === undefined
    ? { advance: cold.advance, cruise: cold.cruise, listen: cold.listen }
    : (factory(text)(numeric, fail, cold.own()) as Stretch);
}

let compiled = 0;

/**
 * The engine looks every text up among those it has compiled, by a hash which for long ones is no more than their length: of texts that differ in one number it compared hundreds,
 * which took longer than to compile. So each gets a length of its own. And two programs with one fast way would share what the engine learns of it, and neither stay fast.
 */
function factory(text: string): Factory {
  compiled = (compiled + 1) % mostLengths;
  return new Function('N', 'F', '$', text + ' '.repeat(compiled)) as Factory;
}
const mostLengths = 1000;

function fail(site: number, what: string): never {
  throw new RunFault(site, what);
}

/** Texts by the very plan; only the further expressions can differ between its experiments. */
const textsOfPlans = new WeakMap<Plan, Map<string, ProgramTexts>>();

function textsOf(plan: Plan, extra: readonly Node[], coverage: boolean): ProgramTexts {
  const key = JSON.stringify([coverage, extra]);
  const known = textsOfPlans.get(plan) ?? new Map<string, ProgramTexts>();
  const texts = known.get(key) ?? emitProgram(plan, extra, coverage);
  textsOfPlans.set(plan, known.set(key, texts));
  return texts;
}
