import { Coverage, type CoverageReport, type Touched, touchedIn, untouched } from '@/core/coverage';
import { type Experiment, recycleTrace, simulate } from '@/core/simulate';
import type { CheckedProject } from '../check';

/** What all cases of a project together touch of the logic of all of its loops. */
export interface CaseCoverage {
  readonly report: CoverageReport;
  /** Parts that one case touches and no other: by the id of the part, the case. */
  readonly alone: ReadonlyMap<string, string>;
  /** Cases that are not counted, since their co-simulation units cannot run here; nor is the logic of their loops. */
  readonly uncounted: readonly string[];
}

/**
 * Runs all cases with counters on. The logic of a loop that has no case is untouched, and missing.
 * @param elsewhere what cases with co-simulation units touched, by their names, where somebody has run them
 */
export function caseCoverage(
  { loops, cases }: Pick<CheckedProject, 'loops' | 'cases'>,
  elsewhere: ReadonlyMap<string, Touched> = new Map(),
): CaseCoverage {
  const coverage = new Coverage();
  // What a variant has beside its loop counts once it is run.
  const isApart = ({ plan, case: name }: Experiment): boolean => plan.units !== undefined && !elsewhere.has(name);
  const uncounted = cases.filter(({ experiment }) => isApart(experiment)).map(({ experiment }) => experiment.case);
  const apart = new Set(cases.filter(({ experiment }) => isApart(experiment)).map(({ experiment }) => experiment.plan.loop));
  for (const { plan } of loops.values()) if (!plan.loop.includes('/') && !apart.has(plan.loop)) coverage.add(plan, untouched(plan));
  const touchedBy = new Map<string, string[]>();
  for (const { experiment } of cases) {
    if (isApart(experiment)) continue;
    const touched = elsewhere.get(experiment.case) ?? touchedBySimulation(experiment);
    coverage.add(experiment.plan, touched);
    const own = new Coverage();
    own.add(experiment.plan, touched);
    const { items, conditions } = own.report();
    for (const { id, gap } of [...items, ...conditions]) if (gap === undefined) touchedBy.set(id, [...(touchedBy.get(id) ?? []), experiment.case]);
  }
  const alone = new Map(
    [...touchedBy].flatMap(([id, [first, ...others]]) => (first !== undefined && others.length === 0 ? [[id, first] as const] : [])),
  );
  return { report: coverage.report(), alone, uncounted };
}

function touchedBySimulation(experiment: Experiment): Touched {
  const outcome = simulate({ ...experiment, coverage: true });
  const touched = touchedIn(experiment.plan, outcome);
  recycleTrace(outcome.trace);
  return touched;
}
