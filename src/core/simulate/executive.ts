import { compileProgram, type Program, type ProgramTexts, RunFault, type ShortLog } from '@/core/emit/js';
import { seedOfStream } from '@/core/numeric';
import { type FixedMethod, groupTasks, type InputChange, type Plan, type TaskGroup } from '@/core/plan';
import type { Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { clippedOutputs } from './clipped';
import { Crossings } from './crossings';
import { Delays } from './delays';
import { Hosts } from './hosts';
import { Recorder } from './recorder';
import { ScriptRunner } from './script';
import { type Effort, type Integrator, integratorOf, type Sliding, StepCollapse } from './solvers';
import type { Clipped, Expectation, Experiment, HandEvent, Host, Implausible, RunError } from './types';
import { UnitSteps, unitTables, unitValues } from './units';
import { type AroundSteps, VariableSteps } from './variableSteps';
import { watchRanges } from './watch';
import { stimulated } from './waves';

/** What a run gave. With an error, the trace goes as far as the run did. */
export interface RunOutcome {
  readonly trace: Trace;
  readonly error?: RunError;
  readonly implausible: readonly Implausible[];
  readonly clipped: readonly Clipped[];
  /** The script waited in vain. */
  readonly gaveUp?: { readonly at: number; readonly text: string };
  /** What the script expected, with what became of it. */
  readonly expected: readonly Expectation[];
  /** Final values of what is logged or read by tasks; parameters keep the value they had. */
  readonly slots: Float64Array;
  /** Outcomes of decisions, where the experiment asks for them. */
  readonly coverage: Uint32Array;
  readonly effort: Effort;
}

/** Steps of fixed length up to an instant, those shortened by breakpoints counted as whole. */
function fixedEffort({ solver, states }: Plan, untilNs: number): Effort {
  const stages = { euler: 1, heun: 2, 'runge-kutta-4': 4 }[solver.method as FixedMethod];
  const accepted = states.length === 0 ? 0 : Math.round(untilNs / solver.stepNs);
  return { accepted, rejected: 0, evaluations: stages * accepted };
}

/** Most rows the continuous log may take before a run is stopped with an error (about 50 signals in 4 GB). */
const mostRows = 10_000_000;

/**
 * Runs one experiment. This is the only evaluator: desk, preview, campaign, replay and test all come here.
 * @param hosts do the tasks that the plan leaves to them
 * At each instant: stimuli change; continuous values are computed; due tasks run in order; their outputs act on from there.
 */
export function simulate(experiment: Experiment, hosts: readonly Host[] = []): RunOutcome {
  return new Executive(experiment, [], experiment.stopNs, hosts).run();
}

/** The run itself, to be gone through in one go (`simulate`) or piece by piece (`LiveRun`): the pieces do not show in the trace. */
export class Executive implements AroundSteps {
  private readonly plan: Plan;
  private readonly program: Program;
  private readonly texts: ProgramTexts;
  private readonly tenancy: number;
  private readonly groups: readonly TaskGroup[];
  private readonly hits: Float64Array;
  /** Next hit of each group. */
  private readonly dueNs: Float64Array;
  /** Group of each task. */
  private readonly owners: readonly number[];
  private readonly recorder: Recorder;
  private readonly script: ScriptRunner;
  private readonly hosts: Hosts;
  private readonly units: UnitSteps | undefined;
  private readonly solver: Integrator | undefined;
  /** With a method of variable step. */
  private readonly variable: VariableSteps | undefined;
  private readonly states: readonly number[];
  private readonly crossings: Crossings | undefined;
  private readonly delays: Delays | undefined;
  /** A parameter was changed at this instant. */
  private isTuned = false;
  private nextStimulus = 0;
  private nextByHand = 0;
  /** No hit is begun after this instant. */
  private limitNs = 0;
  /** Stands on a point of the solver's grid between two instants, whose row is not written yet: something may still be changed there by hand. */
  private between = false;

  /** What recordings play and what the case changes, in order of time. */
  private readonly stimuli: readonly InputChange[];

  /**
   * @param byHand what is done by hand, in order of time; entries may be added while the run goes on, as long as their time is not past
   * @param roomNs how much simulated time memory is taken for at first
   * @param hosts do the tasks that the plan leaves to them
   */
  constructor(
    private readonly experiment: Experiment,
    private readonly byHand: readonly HandEvent[] = [],
    roomNs = experiment.stopNs,
    hosts: readonly Host[] = [],
  ) {
    const { plan, stimuli } = stimulated(experiment);
    this.plan = plan;
    this.stimuli = stimuli;
    this.groups = groupTasks(plan);
    this.owners = plan.tasks.map((_, index) => this.groups.findIndex((group) => group.tasks.includes(index)));
    this.states = plan.states.map((state) => state.slot);
    const starts = plan.states.map((state) => state.start);
    const ofUnits = unitValues(plan);
    const ofDelays = (plan.delays ?? []).flatMap(({ of, by, start }) => [of, by, start]);
    const { program, texts, tenancy } = compileProgram(plan, [...experiment.conditions, ...starts, ...ofUnits, ...ofDelays], experiment.coverage);
    const firstOfDelays = experiment.conditions.length + starts.length + ofUnits.length;
    this.delays = plan.delays && new Delays(plan, plan.delays, program, (number, seconds) => program.values[firstOfDelays + number]?.(seconds) ?? 0);
    this.program = this.delays?.program ?? program;
    this.texts = texts;
    this.tenancy = tenancy;
    this.crossings = plan.crossings.length > 0 ? new Crossings(plan, this.program) : undefined;
    this.recorder = new Recorder(plan, this.groups, Math.min(roomNs, experiment.stopNs), [this.program.log, ...this.program.hitLogs]);
    this.hits = this.program.counts.fill(0);
    this.dueNs = this.program.due;
    this.dueNs.set(this.groups.map((group) => group.offsetNs));
    this.nowNs = 0;
    this.reachedNs = 0;
    this.row = 0;
    this.hosts = new Hosts([...unitTables(plan), ...(experiment.hosts ?? [])], hosts, this);
    const firstOfUnits = experiment.conditions.length + starts.length;
    this.units = plan.units && new UnitSteps(plan.units, this.hosts, (index) => program.values[firstOfUnits + index]?.(this.nowNs / 1e9) ?? 0);
    this.script = new ScriptRunner(experiment.script, experiment.end, experiment.always);
    const { solver } = plan;
    this.solver = integratorOf(
      solver.method,
      this.states.length,
      this.program.derivative,
      {
        relative: solver.relativeTolerance,
        absolute: solver.absoluteTolerance,
        ...(solver.ofStates ? { ofStates: solver.ofStates } : {}),
        largestStep: solver.stepNs / 1e9,
      },
      (problem) => problem instanceof RunFault,
    );
    this.variable = this.solver && new VariableSteps(plan, this.program, this.solver, this.crossings, this.delays, this, experiment.stopNs);
  }

  get nowNs(): number {
    return this.program.clock[0] as number;
  }

  private set nowNs(ns: number) {
    this.program.clock[0] = ns;
  }

  /** Next free row of the short log. */
  private get row(): number {
    return this.program.clock[1] as number;
  }

  private set row(row: number) {
    this.program.clock[1] = row;
  }

  /** Where a step inside a stretch between two instants began (ns), or the instant inside it whose values are looked at. */
  private get reachedNs(): number {
    return this.program.clock[3] as number;
  }

  private set reachedNs(ns: number) {
    this.program.clock[3] = ns;
  }

  run(): RunOutcome {
    const error = this.attempt();
    const trace = this.recorder.trace();
    const parameters = new Set(this.plan.parameters);
    const { gaveUp } = this.script;
    return {
      trace,
      ...(error ? { error } : {}),
      ...(gaveUp ? { gaveUp: { at: gaveUp.atNs / 1e9, text: gaveUp.text } } : {}),
      expected: this.script.expected(this.nowNs),
      implausible: watchRanges(trace, this.plan.trusted),
      clipped: clippedOutputs(trace, this.plan.limited, (slot) => (parameters.has(slot) ? this.value(slot) : Number.NaN)),
      slots: this.program.slots.slice(0, this.experiment.plan.slots.length),
      coverage: this.program.coverage.slice(),
      effort: this.solver ? { ...this.solver.effort } : fixedEffort(this.plan, this.nowNs),
    };
  }

  private attempt(): RunError | undefined {
    return this.begin() ?? this.goOn(this.experiment.stopNs);
  }

  /** The first instant. */
  begin(): RunError | undefined {
    return this.told(() => this.start());
  }

  /**
   * Goes on to the last instant that is not after the limit, with a fixed step to the last point of its grid. What ends the run ends it; a script that ends ends the piece as well if `withScript` says so.
   * @returns why the run cannot go on, if so
   */
  goOn(limitNs: number, withScript = false): RunError | undefined {
    return this.told(() => {
      this.limitNs = limitNs;
      const isOver = (): boolean => this.script.hasEnded || (withScript && this.script.isDone);
      if (this.between) this.leaveBetween();
      while (this.nowNs < limitNs && !isOver()) {
        this.cruise(isOver);
        if (isOver()) return;
        const next = this.nextInstant();
        if (next > limitNs) return this.goBetween(limitNs);
        this.integrate(next);
        this.nowNs = next;
        this.instant(false);
      }
    });
  }

  /** With a fixed step, the states are followed on its grid up to the limit. */
  private goBetween(limitNs: number): void {
    const { stepNs } = this.plan.solver;
    const grid = Math.floor(limitNs / stepNs) * stepNs;
    if (this.solver || grid <= this.nowNs) return;
    this.integrateFixed(grid);
    this.nowNs = grid;
    this.program.outputs(grid / 1e9);
    this.takeLogs();
    this.between = !this.recorder.endsAt(grid / 1e9);
  }

  private leaveBetween(): void {
    this.between = false;
    const due = this.byHand[this.nextByHand];
    if (due && due.atNs <= this.nowNs) this.instant(false);
    else this.record(this.nowNs / 1e9);
  }

  /** Calls what may end the run with an error, and tells that as a value. What was logged is then in the recorder, so that the trace is whole between pieces. */
  private told(work: () => void): RunError | undefined {
    this.program.begin(this, this.texts, this.tenancy);
    try {
      work();
      return undefined;
    } catch (problem) {
      if (problem instanceof RunFault) return this.describe(problem);
      if (problem instanceof StepCollapse) {
        const state = this.plan.slots[this.states[problem.state] as number]?.name ?? '';
        return { at: this.errorAt(), message: `${problem.message} (the error of ${state} asks for it)` };
      }
      if (problem instanceof RangeError) return { at: this.errorAt(), message: problem.message };
      throw problem;
    } finally {
      this.takeLogs();
      this.program.end();
    }
  }

  /** Puts values into slots between two instants and goes on from there, as if the run had come there with them. @returns as `goOn` */
  goOnWith(slots: readonly number[], values: ArrayLike<number>, limitNs: number): RunError | undefined {
    const put = this.told(() => {
      slots.forEach((slot, index) => {
        this.program.slots[slot] = values[index] as number;
      });
      this.program.outputs(this.nowNs / 1e9);
    });
    return put ?? this.goOn(limitNs);
  }

  /** Whether the script is at its end. */
  get scriptIsDone(): boolean {
    return this.script.isDone;
  }

  get isBetween(): boolean {
    return this.between;
  }

  /** When the next hit of any task is due (ns). */
  get nextHitNs(): number {
    return Math.min(...this.dueNs);
  }

  /** The present value of a slot. */
  value(slot: number): number {
    return this.program.slots[slot] as number;
  }

  /** The trace so far, which shares its memory with the run: it is good until the run goes on. */
  letGo(seconds: number): Trace {
    return this.recorder.letGo(seconds);
  }

  /** Rows of the continuous log that are kept. */
  get rows(): number {
    return this.recorder.rows;
  }

  traceSoFar(): Trace {
    return this.recorder.trace(false);
  }

  private describe(fault: RunFault): RunError {
    const site = this.plan.sites[fault.site];
    const where = site ? ` in "${site.text}" (${site.file}:${site.line}:${site.column})` : '';
    return { at: this.errorAt(), message: `${fault.what}${where}` };
  }

  /** Time of what ended the run (s): of the instant, or of the beginning of the step, it happened in. */
  private errorAt(): number {
    return Math.max(this.nowNs, this.reachedNs) / 1e9;
  }

  private start(): void {
    const { program, experiment, plan } = this;
    plan.draws.forEach((slot, stream) => {
      program.slots[slot] = seedOfStream(experiment.seed, stream);
    });
    for (const [slot, value] of experiment.overrides) program.slots[slot] = value;
    plan.states.forEach((state, index) => {
      program.slots[state.slot] = program.values[experiment.conditions.length + index]?.(0) ?? 0;
    });
    for (const [slot, value] of experiment.initial) program.slots[slot] = value;
    this.hosts.begin((slot) => this.value(slot));
    this.delays?.begin();
    if (this.units) program.outputs(0);
    this.units?.begin();
    this.instant(true);
  }

  private nextInstant(): number {
    let next = Math.min(this.nextFromOutside(), this.delays?.latest(this.nowNs) ?? Number.POSITIVE_INFINITY);
    for (let group = 0; group < this.groups.length; group += 1) next = Math.min(next, this.dueNs[group] as number);
    return next;
  }

  /** When the run ends, a stimulus changes or the script acts by the clock. */
  private nextFromOutside(): number {
    const stimulus = this.stimuli[this.nextStimulus]?.atNs ?? Number.POSITIVE_INFINITY;
    const byHand = this.byHand[this.nextByHand]?.atNs ?? Number.POSITIVE_INFINITY;
    // A run of a variable step without hits has no instants of its own to stop at.
    const limit = this.solver && this.groups.length === 0 ? this.limitNs : Number.POSITIVE_INFINITY;
    return Math.min(this.experiment.stopNs, stimulus, byHand, limit, Math.max(this.script.wakeNs, this.nowNs + 1));
  }

  /** As many whole hits as come before anything from outside, in one call of emitted code, or until the script has what it waits for and nothing more is wanted. */
  private cruise(isOver: () => boolean): void {
    const { plan, program, groups } = this;
    if (this.solver || this.crossings || this.delays || this.units || groups.length === 0) return;
    const rows = Math.max(...groups.map((group) => group.periodNs)) / plan.solver.stepNs + 2;
    if (rows > program.log.rows) return;
    while (this.nowNs % plan.solver.stepNs === 0) {
      this.reserve(rows);
      this.takeFullHits();
      program.cruise(Math.min(this.nextFromOutside(), this.limitNs + 1), this.script.waitsFor);
      const why = program.clock[2];
      if (why === 2) {
        this.nowNs = this.reachedNs;
        this.checkFinite();
      }
      if (why === 3) continue;
      if (why === 1) {
        this.finishInstant(false);
        if (isOver()) return;
      } else if (this.row + rows <= program.log.rows && !this.takeFullHits()) return;
    }
  }

  /** One instant, in the order the language page lays down. */
  private instant(first: boolean): void {
    const seconds = this.nowNs / 1e9;
    this.reserve(2);
    if (first) this.program.outputs(seconds);
    else this.record(seconds);
    this.finishInstant(first);
  }

  /** What happens at an instant once the continuous values of its beginning are known and written. There is room for a second row beside that one. */
  private finishInstant(first: boolean): void {
    const { program } = this;
    const seconds = this.nowNs / 1e9;
    const hasCome = this.comeOut(seconds);
    this.applyStimuli();
    this.applyByHand();
    let jumped = hasCome || this.retune(seconds) || this.refresh(seconds);
    this.script.advance(this.nowNs, this);
    jumped = this.retune(seconds) || this.refresh(seconds) || jumped;
    jumped = this.jump(first) || jumped;
    this.runTasks();
    jumped = this.refresh(seconds) || jumped;
    jumped = this.jump(first) || jumped;
    if (this.nowNs < this.experiment.stopNs) this.units?.goOn(this.nowNs);
    this.delays?.isNow(this.nowNs);
    if (first || jumped) {
      program.logRow(this.row, seconds);
      if (first || !program.sameRows(this.row)) this.row += 1;
    }
    this.checkFinite();
  }

  /** Continuous values follow what has just changed. @returns true when something had */
  private refresh(seconds: number): boolean {
    if (!this.program.stale()) return false;
    this.program.follow(seconds);
    return true;
  }

  /** What jumped a dead time ago comes out. @returns true when there was any */
  private comeOut(seconds: number): boolean {
    if (!this.delays?.pass(this.nowNs)) return false;
    this.program.outputs(seconds);
    return true;
  }

  /** Events that what has just changed brings about. @returns true when there were any */
  private jump(isStart: boolean): boolean {
    return this.crossings?.jump(this.nowNs, isStart) ?? false;
  }

  private applyStimuli(): void {
    const { stimuli } = this;
    for (let change = stimuli[this.nextStimulus]; change && change.atNs <= this.nowNs; change = stimuli[this.nextStimulus]) {
      this.change(change.input, change.value, change.slope, change.atNs);
      this.nextStimulus += 1;
    }
  }

  private applyByHand(): void {
    const { byHand } = this;
    for (let event = byHand[this.nextByHand]; event && event.atNs <= this.nowNs; event = byHand[this.nextByHand]) {
      this.nextByHand += 1;
      if (event.k === 'set') this.change(event.input, event.value, 0, event.atNs);
      else if (event.k === 'send') this.send(event.message, event.value);
      else this.tune(event.slot, event.value);
    }
  }

  private change(input: number, value: number, slope: number, ns: number): void {
    const free = this.plan.inputs[input];
    if (!free) return;
    const { slots } = this.program;
    slots[free.base] = value;
    if (free.slope !== undefined) slots[free.slope] = slope;
    if (free.since !== undefined) slots[free.since] = ns / 1e9;
  }

  tune(slot: number, value: number): void {
    this.program.slots[slot] = value;
    this.isTuned = true;
  }

  /** A parameter may stand in any formula. @returns true when one was changed */
  private retune(seconds: number): boolean {
    if (!this.isTuned) return false;
    this.isTuned = false;
    this.program.outputs(seconds);
    return true;
  }

  mark(state: number, entered: boolean): void {
    this.recorder.mark(this.nowNs / 1e9, state, entered);
  }

  values(host: number): Float64Array {
    return this.hosts.values(host);
  }

  hosted(host: number, task: number, hit: number): void {
    this.hosts.hit(host, task, hit);
  }

  setInput(input: number, value: number, ns: number): void {
    this.change(input, value, 0, ns);
  }

  /** Puts a message into the queue of the component that takes it. */
  send(message: number, value: number): void {
    const found = this.plan.messages[message];
    if (!found) return;
    const { slots } = this.program;
    const { codes, values, head, waiting } = found.queue;
    const count = slots[waiting] as number;
    if (count >= codes.count) throw new RangeError(`too many messages wait for ${found.name}`);
    const index = ((slots[head] as number) + count) % codes.count;
    slots[codes.base + index] = found.code;
    slots[values.base + index] = value;
    slots[waiting] = count + 1;
    this.mark(found.mark, true);
  }

  holds(condition: number, ns: number): boolean {
    return this.program.values[condition]?.(ns / 1e9) === 1;
  }

  private runTasks(): void {
    // Tasks stand in data-flow order in the plan; groups only say which of them are due.
    const { dueNs, groups, hits, nowNs, owners, program } = this;
    const { tasks } = program;
    for (let index = 0; index < tasks.length; index += 1) {
      const group = owners[index] as number;
      if (dueNs[group] === nowNs) (tasks[index] as (hit: number) => void)(hits[group] as number);
    }
    this.takeFullHits();
    for (let group = 0; group < groups.length; group += 1) {
      if (dueNs[group] !== nowNs) continue;
      (program.hits[group] as (seconds: number) => void)(nowNs / 1e9);
      const { offsetNs, periodNs } = groups[group] as TaskGroup;
      const next = (hits[group] as number) + 1;
      hits[group] = next;
      dueNs[group] = offsetNs + next * periodNs;
    }
  }

  /** What was logged since the last time goes into the trace. */
  private takeLogs(): void {
    const { log, hitLogs } = this.program;
    this.recorder.take(0, log, this.row);
    this.row = 0;
    for (let group = 0; group < hitLogs.length; group += 1) this.takeHits(group);
  }

  private takeHits(group: number): void {
    const { hitLogs, recentRows } = this.program;
    this.recorder.take(group + 1, hitLogs[group] as ShortLog, recentRows[group] as number);
    recentRows[group] = 0;
  }

  /** @returns true when there were any */
  private takeFullHits(): boolean {
    const { hitLogs, recentRows } = this.program;
    let taken = false;
    for (let group = 0; group < hitLogs.length; group += 1) {
      if ((recentRows[group] as number) < (hitLogs[group] as ShortLog).rows) continue;
      this.takeHits(group);
      taken = true;
    }
    return taken;
  }

  private integrate(nextNs: number): void {
    if (this.variable && (this.states.length > 0 || !this.delays)) this.variable.integrate(this.nowNs, nextNs);
    else this.integrateFixed(nextNs);
  }

  /** Whole steps on the grid of multiples of the step; a breakpoint inside a step shortens that one, then the grid goes on. */
  private integrateFixed(nextNs: number): void {
    const { stepNs } = this.plan.solver;
    const { crossings, delays, program } = this;
    let from = this.nowNs;
    while (from < nextNs) {
      const offGrid = from % stepNs;
      const grid = offGrid === 0 ? from : from - offGrid + stepNs;
      const whole = Math.min(Math.floor((nextNs - from) / stepNs), program.log.rows - 1);
      const count = grid > from || crossings || delays ? 1 : Math.max(1, whole);
      const length = grid > from ? Math.min(grid, nextNs) - from : Math.min(stepNs, nextNs - from);
      this.reserve(count + 1);
      const { row } = this;
      const advance = (ns: number): void => {
        if (delays) delays.advance(from, ns);
        else this.row = program.advance(from, ns, count, row);
      };
      crossings?.begin(from);
      delays?.fixedBegins(from);
      advance(length);
      this.checkFinite();
      const crossed = crossings?.locate(from, length, advance);
      from += crossed ?? count * length;
      delays?.fixedEnds(from);
      if (crossed !== undefined) this.cross(from);
      else if (from < nextNs) this.record(from / 1e9);
    }
  }

  /** A located event: the values before and after it. */
  cross(ns: number): void {
    this.record(ns / 1e9);
    this.nowNs = ns;
    this.crossings?.apply(ns);
    this.record(ns / 1e9);
    this.delays?.isNow(ns);
    this.checkFinite();
  }

  record(seconds: number): void {
    const { program } = this;
    this.reserve(1);
    this.reachedNs = Math.round(seconds * 1e9);
    program.outputs(seconds);
    program.logRow(this.row, seconds);
    this.row += 1;
  }

  reach(ns: number): void {
    this.reachedNs = ns;
  }

  slides(t: number, { state, step }: Sliding): never {
    const name = this.plan.slots[this.states[state] as number]?.name ?? '';
    throw new RangeError(
      `the run slides at ${timeWords(t)}: ${name} is pushed to and fro in steps of ${timeWords(Number(step.toPrecision(2)))}. Give what switches there a hysteresis, or let a sampled component switch`,
    );
  }

  /** The program leaves off where the sum of the states is not finite; each by itself may be so still. */
  private checkFinite(): void {
    let sum = 0;
    for (const slot of this.states) {
      const value = this.program.slots[slot] as number;
      if (!Number.isFinite(value))
        throw new RangeError(
          `the state ${this.plan.slots[slot]?.name ?? ''} became ${value}: the equations grow without bound, or the step is too long for them`,
        );
      sum += value;
    }
    if (!Number.isFinite(sum))
      throw new RangeError('the states together exceed the largest number: the equations grow without bound, or the step is too long for them');
  }

  /** Makes room for so many rows of the short log. */
  private reserve(rows: number): void {
    if (this.row + rows <= this.program.log.rows) return;
    this.takeLogs();
    if (this.recorder.rows > mostRows)
      throw new RangeError(`the trace would have more than ${mostRows} rows; make the run shorter or the step longer`);
  }
}
