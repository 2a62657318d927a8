import { benchSteps, type Wiring, wiringOf } from '@/core/bench';
import type { PlannedBuild } from '@/core/build';
import type { BenchDocument, Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { readTime } from '@/core/formula';
import { nameKey, nearestName, readDuration } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { RawBench, RawStep } from '@/core/shapes';
import type { CheckedCase } from '../checkedCase';
import { plannedBuild } from '../code/controller';
import { channelFaultOf } from './channelFault';

type Loops = ReadonlyMap<string, AssembledLoop>;

/** A bench as it is there for a loop. */
export interface BenchInUse {
  readonly raw: RawBench;
  readonly wiring: Wiring;
  readonly build: PlannedBuild;
  readonly cycleNs: number;
  readonly watchdogMs: number;
  readonly speed: number;
  readonly latenessNs: number;
}

/** What a controller may be without inputs for, where the sheet says nothing (ms of the wall). */
const usualWatchdogMs = 1000;

/** The bench that runs a loop: the named one, or the first that has it. @returns a sentence where there is none */
export function benchOf({ project, loops }: { readonly project: Project; readonly loops: Loops }, loop: string, name?: string): BenchInUse | string {
  const assembled = loops.get(loop);
  const base = nameKey(loop.split('/')[0] ?? loop);
  const all = [...project.benches.values()];
  const found = all.find(({ raw }) => nameKey(raw.loop) === base && (name === undefined || nameKey(raw.bench) === nameKey(name)));
  const title = assembled?.plan.loop ?? loop;
  if (!found || !assembled)
    return name === undefined
      ? `There is no bench for the loop ${title}; add a wiring sheet under benches/.`
      : `There is no bench "${name}" for the loop ${title}.`;
  const build = plannedBuild({ project, loops }, loop);
  if ('because' in build) return build.because;
  const { wiring, faults } = wiringOf(found.raw, build, assembled);
  if (faults[0]) return `The bench ${found.raw.bench} does not fit the loop ${title}: ${faults[0].message}`;
  const cycleNs = readDuration(String(found.raw.cycle));
  const watchdogNs = found.raw.watchdog === undefined ? usualWatchdogMs * 1e6 : readDuration(String(found.raw.watchdog));
  if (typeof cycleNs === 'string') return cycleNs;
  if (typeof watchdogNs === 'string') return watchdogNs;
  const speed = found.raw.speed ?? 1;
  const latenessNs = latenessOf(found.raw);
  if (typeof latenessNs === 'string') return latenessNs;
  return { raw: found.raw, wiring, build, cycleNs, watchdogMs: Math.ceil(watchdogNs / 1e6), speed, latenessNs };
}

/** @returns how late a cycle may begin by the clock on the wall (ns), or what is wrong with it in words */
export function latenessOf({ lateness, cycle, speed = 1 }: RawBench): number | string {
  if (lateness !== undefined) return readDuration(String(lateness));
  const cycleNs = readDuration(String(cycle));
  return typeof cycleNs === 'string' ? cycleNs : cycleNs / speed;
}

/** Checks all wiring sheets, what cases want of them, and that there is one where requirements have to be shown on a bench. */
export function checkBenches(project: Project, loops: Loops, cases: readonly CheckedCase[], faults: Faults): void {
  for (const bench of project.benches.values()) checkBench(bench, project, loops, faults);
  if (faults.count > 0) return;
  for (const test of cases) checkBenchSteps(test, project, loops, faults);
  if (!project.stages.includes('bench') || !project.controller) return;
  for (const loop of new Set(cases.map((test) => test.loop))) {
    const found = benchOf({ project, loops }, loop);
    if (typeof found === 'string')
      faults.add(
        'type',
        project.controller.document.place(['stages']),
        `Requirements have to be shown on a bench. ${found}`,
        'Add one, or take bench out of stages.',
      );
  }
}

function checkBench({ document, raw }: BenchDocument, project: Project, loops: Loops, faults: Faults): void {
  readTime(raw.cycle, document.place(['cycle']), faults, 1);
  if (raw.lateness !== undefined) readTime(raw.lateness, document.place(['lateness']), faults, 1);
  if (raw.watchdog !== undefined) readTime(raw.watchdog, document.place(['watchdog']), faults, 1);
  checkController({ document, raw }, faults);
  const key = nameKey(raw.loop);
  const loop = loops.get(key);
  if (!loop) {
    if (project.unusable.has(key)) return;
    const near = nearestName(
      raw.loop,
      [...project.loops.values()].map((one) => one.raw.loop),
    );
    faults.add(
      'unknown-name',
      document.place(['loop']),
      `There is no loop "${raw.loop}".`,
      near ? `Did you mean "${near}"?` : 'Name a loop under loops/.',
    );
    return;
  }
  if (faults.count > 0) return;
  const build = plannedBuild({ project, loops }, key);
  if ('because' in build) {
    faults.add('type', document.place(['loop']), build.because, 'Name the components that are the controller in project.yaml.');
    return;
  }
  for (const { path, message, fix } of wiringOf(raw, build, loop).faults) faults.add('type', document.place(path), message, fix);
}

function checkController({ document, raw }: BenchDocument, faults: Faults): void {
  const controller = raw.controller ?? standIn;
  const isStandIn = controller === standIn;
  if (!isStandIn && !addressOf(controller))
    faults.add(
      'shape',
      document.place(['controller']),
      `"${controller}" is no address of a controller.`,
      'Write host:port, such as 192.168.0.20:502, or stand-in.',
    );
  if (!isStandIn && raw.speed !== undefined && raw.speed !== 1)
    faults.add('shape', document.place(['speed']), 'Only a stand-in can run faster than real time.', 'Remove speed.');
  if (isStandIn && raw.program === 'own')
    faults.add('shape', document.place(['program']), 'A stand-in has no program of its own.', 'Remove program, or give the address of a controller.');
}

/** The controller that is started for a run and ended with it. */
export const standIn = 'stand-in';

/** @returns nothing where it is none */
export function addressOf(controller: string): { readonly host: string; readonly port: number } | undefined {
  const found = /^\[?([^\s\]]+?)\]?:(\d{1,5})$/.exec(controller);
  const port = Number(found?.[2]);
  return found?.[1] && port > 0 && port < 65_536 ? { host: found[1], port } : undefined;
}

/** A case with steps of the bench runs on a bench alone; what they name has to be there. */
function checkBenchSteps(test: CheckedCase, project: Project, loops: Loops, faults: Faults): void {
  if (benchSteps(test.experiment.script).length === 0) return;
  const { document, raw } = test.document;
  const bench = benchOf({ project, loops }, test.loop);
  for (const { step, path } of written(raw.script ?? [], ['script'])) {
    if (typeof bench === 'string') {
      faults.add('type', document.place(path), `The case has a fault of a bench. ${bench}`, 'Add one, or remove the step.');
      return;
    }
    const problem = channelFaultOf(step, bench.wiring, bench.raw.program === 'own');
    if (problem) faults.add('type', document.place(path), problem.message, problem.fix);
  }
}

type Path = readonly (string | number)[];

function written(steps: readonly RawStep[], path: Path): { readonly step: Extract<RawStep, { bench: unknown }>['bench']; readonly path: Path }[] {
  return steps.flatMap((step, index) => {
    if ('bench' in step) return [{ step: step.bench, path: [...path, index, 'bench'] }];
    return 'together' in step ? step.together.flatMap((line, at) => written(line, [...path, index, 'together', at])) : [];
  });
}
