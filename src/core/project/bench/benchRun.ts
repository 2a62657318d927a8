import { answerOf, type BenchSetup, benchExperiment, type PackageHeader } from '@/core/bench';
import { headOf, type PlannedBuild } from '@/core/build';
import { type Criterion, criterionSlots } from '@/core/criteria';
import type { BackToBack } from '@/core/evidence';
import { nameKey } from '@/core/language';
import type { Slot } from '@/core/plan';
import type { Experiment } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import type { CheckedProject } from '../check';
import { tolerancesIn } from '../code/controller';
import type { RunOrder, RunResult } from '../run';
import { addressOf, type BenchInUse, standIn } from './sheets';

/** The controller of a bench, as plain data for the process that runs it. */
export interface BenchController {
  /** Name of the bench. */
  readonly bench: string;
  /** Where it listens; nothing for a stand-in, which is started for the run. */
  readonly address?: { readonly host: string; readonly port: number };
  /** The build it is given: header, and file of the library. Nothing where it has a program of its own. */
  readonly program?: { readonly header: PackageHeader; readonly library: string };
  readonly watchdogMs: number;
  /** How often a run is made at most, until one has kept its time. */
  readonly attempts: number;
}

/** A run on a bench, as plain data. */
export interface BenchOrder extends RunOrder {
  readonly bench: BenchController;
  readonly build: PlannedBuild;
  /** Slots of the build that its channels are. */
  readonly pins: { readonly inputs: readonly number[]; readonly outputs: readonly number[] };
  readonly tolerances: readonly (readonly [string, number])[];
}

/**
 * A run of the model as one on a bench.
 * @param program the build as its controller gets it
 * @throws Error in words when the case asks for what a bench cannot see
 */
export function asBenchRun(project: CheckedProject, order: RunOrder, bench: BenchInUse, program: BenchController['program']): BenchOrder {
  const { raw, build, watchdogMs, speed, wiring } = bench;
  const isOwn = raw.program === 'own';
  if (isOwn) refuseParameters(order.experiment, bench);
  const { experiment, unseen } = benchExperiment(order.experiment, setupOf(bench));
  const loop = project.loops.get(nameKey(order.experiment.plan.loop));
  const address = raw.controller === undefined || raw.controller === standIn ? undefined : addressOf(raw.controller);
  return {
    ...order,
    experiment,
    watched: order.watched.filter(({ criterion }) => isSeen(criterion, unseen)),
    // What is waited for in real time takes that time.
    limitSeconds: order.limitSeconds + order.experiment.stopNs / 1e9 / speed,
    bench: {
      bench: raw.bench,
      ...(address ? { address } : {}),
      ...(isOwn || !program ? {} : { program }),
      watchdogMs,
      attempts: raw.attempts ?? 1,
    },
    build,
    pins: { inputs: wiring.inputs.map((pin) => pin.slot), outputs: wiring.outputs.map((pin) => pin.slot) },
    tolerances: loop ? [...tolerancesIn(project.project, loop)] : [],
  };
}

/** What nobody can set in a controller with a program of its own has to be as the model has it. */
function refuseParameters({ plan, overrides, script }: Experiment, { build, raw }: BenchInUse): void {
  const own = new Set(build.components.map(nameKey));
  const name = (slot: number): string => plan.slots[slot]?.name ?? '';
  const set = [...overrides.map(([slot]) => slot), ...changedIn(script)].find((slot) => own.has(headOf(name(slot))));
  if (set !== undefined)
    throw new Error(`the case sets ${name(set)}, and the controller of ${raw.bench} has a program of its own, which Ovrand cannot set`);
}

function changedIn(script: Experiment['script']): number[] {
  return script.flatMap((step) => {
    if (step.k === 'change') return step.changes.map(({ slot }) => slot);
    return step.k === 'together' ? step.lines.flatMap(changedIn) : [];
  });
}

/** What a run needs to know of its bench. */
export function setupOf({ raw, wiring, build, cycleNs, speed, latenessNs }: BenchInUse): BenchSetup {
  return { build, wiring, cycleNs, speed, latenessNs, tellsStates: raw.program !== 'own' };
}

/** A criterion on inner values of a controller is judged where these can be seen. */
function isSeen(criterion: Criterion, unseen: ReadonlySet<number>): boolean {
  return !criterionSlots(criterion).some((slot) => unseen.has(slot));
}

/**
 * Which of the attempts at a run stands, by its place among them; nothing while another one may be made. One that ended since it had missed its time, by the bench or by the
 * controller, or left something open for its pauses, gives way to the next. But what it had shown to be broken has to show in the one that takes its place, or else it stands itself: nobody gets a pass by trying again.
 * @param most attempts that may be made
 */
export function standingAttempt(attempts: readonly RunResult[], most: number): number | undefined {
  const last = attempts.length - 1;
  const latest = attempts[last];
  if (!latest || (!keptItsTime(latest) && attempts.length < most)) return undefined;
  const shown = brokenIn(latest);
  const hidden = attempts.findIndex((one) => [...brokenIn(one)].some((broken) => !shown.has(broken)));
  return hidden >= 0 ? hidden : last;
}

function keptItsTime({ error, bench }: RunResult): boolean {
  if (!bench) return true;
  const { timing, undecided = 0 } = bench;
  return error ? timing.overruns === 0 && timing.controllerOverruns === 0 : undecided === 0;
}

/** Criteria that failed in a run, and expectations of its case that were not met. */
export function brokenIn({ results, expected }: RunResult): ReadonlySet<string> {
  return new Set([
    ...results.flatMap(({ requirement, name, verdict }) => (verdict === 'fail' ? [`${requirement} ${name}`] : [])),
    ...expected.flatMap(({ outcome }, index) => (outcome === 'broken' ? [`expectation ${index}`] : [])),
  ]);
}

/** How a run on a bench compares with the model at the same inputs. */
export function againstModel({ experiment, build, pins, tolerances }: BenchOrder, trace: Trace): BackToBack | undefined {
  const host = experiment.hosts?.[0];
  if (!host?.bench) return undefined;
  return answerOf(trace, build, host.bench, pins, startsOf(experiment, host.begun), new Map(tolerances));
}

function startsOf({ plan, overrides }: Experiment, slots: readonly number[]): number[] {
  const own = new Map(overrides);
  return slots.map((slot) => own.get(slot) ?? (plan.slots[slot] as Slot).start);
}
