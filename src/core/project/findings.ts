import { hostedExperiment } from '@/core/build';
import { type Finding, type RequirementFacts, Today, unseenReason } from '@/core/evidence';
import { nameKey } from '@/core/language';
import type { Stage } from '@/core/shapes';
import type { Experiment } from '@/core/simulate';
import { asBenchRun } from './bench/benchRun';
import { benchOf } from './bench/sheets';
import { watchedAt } from './bench/stagesOf';
import type { CheckedProject } from './check';
import type { CheckedCase } from './checkedCase';
import { plannedBuild } from './code/controller';
import { orderRun, type RunResult } from './run';

/** What the roll-up needs to know of a project's requirements. */
export function requirementFacts(project: CheckedProject, stage: Stage = 'model'): RequirementFacts[] {
  const unseen = stage === 'bench' ? unseenOnBench(project) : new Set<string>();
  const watched = new Set(project.criteria.filter((one) => one.acceptedBy !== undefined).map((one) => JSON.stringify([one.requirement, one.name])));
  return project.project.requirements.map(({ raw }) => ({
    id: raw.requirement,
    ...(raw.verify_by ? { verifyBy: raw.verify_by } : {}),
    criteria: (raw.criteria ?? []).map(({ criterion, accepted }) => ({
      name: criterion,
      accepted: accepted !== undefined,
      watched: watched.has(JSON.stringify([raw.requirement, criterion])),
      ...(unseen.has(JSON.stringify([raw.requirement, criterion])) ? { unseen: unseenReason } : {}),
    })),
  }));
}

/** Criteria that the cases of benches could judge on the model, and that no bench can: they read inner values of a controller. */
function unseenOnBench(project: CheckedProject): ReadonlySet<string> {
  const [asked, seen] = [new Set<string>(), new Set<string>()];
  for (const test of project.cases) {
    if (typeof benchOf(project, test.loop) === 'string') continue;
    for (const { requirement, name } of watchedAt(project, test, 'model')) asked.add(JSON.stringify([requirement, name]));
    for (const { requirement, name } of watchedAt(project, test, 'bench')) seen.add(JSON.stringify([requirement, name]));
  }
  return new Set([...asked].filter((key) => !seen.has(key)));
}

/** What recorded evidence is held against. */
export function todayOf(checked: CheckedProject): Today {
  const { cases, criteria, project } = checked;
  const tests = new Map(cases.map((test) => [nameKey(test.experiment.case), test]));
  const builds = new Map<string, ReturnType<typeof plannedBuild>>();
  const buildFor = (loop: string): ReturnType<typeof plannedBuild> => {
    const build = builds.get(loop) ?? plannedBuild(checked, loop);
    builds.set(loop, build);
    return build;
  };
  const experimentOf = (key: string, stage: string): Experiment | undefined => {
    const test = tests.get(key);
    if (!test || stage === 'model') return test?.experiment;
    if (stage === 'bench') return benchExperimentOf(checked, test);
    const build = buildFor(test.loop);
    return 'because' in build ? undefined : hostedExperiment(test.experiment, [build]);
  };
  return new Today(
    cases.map(({ experiment }) => experiment.case),
    experimentOf,
    criteria,
    project.requirements.map(({ raw }) => raw),
  );
}

/** What would be run of a case on its bench. */
function benchExperimentOf(checked: CheckedProject, test: CheckedCase): Experiment | undefined {
  const bench = benchOf(checked, test.loop);
  if (typeof bench === 'string') return undefined;
  try {
    return asBenchRun(checked, orderRun(checked, test), bench, undefined).experiment;
  } catch {
    // The case asks for what a bench cannot see; it is not run there.
    return undefined;
  }
}

/** Why a run may not contribute a pass. */
export function discountOf(result: Pick<RunResult, 'error' | 'implausible' | 'case'>): string | undefined {
  if (result.error) return `run "${result.case}" ended in an error`;
  const first = result.implausible[0];
  return first ? `plant not believable in "${result.case}": ${first.message}` : undefined;
}

/** The findings of one run, one for each criterion watched. */
export function findingsOf(result: RunResult, run: number): Finding[] {
  const discounted = discountOf(result);
  return result.results.map(({ requirement, name, verdict, obligations, worst }) => {
    const decisive = worst === undefined ? undefined : obligations[worst];
    return {
      requirement,
      criterion: name,
      run,
      case: result.case,
      stage: result.stage,
      verdict,
      obligations: obligations.length,
      ...(decisive ? { worst: decisive } : {}),
      ...(discounted ? { discounted } : {}),
    };
  });
}
