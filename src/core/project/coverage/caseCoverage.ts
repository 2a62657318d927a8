import { Coverage, type CoverageReport, touchedIn, untouched } from '@/core/coverage';
import { recycleTrace, simulate } from '@/core/simulate';
import type { CheckedProject } from '../check';

/** What all cases of a project together touch of the logic of all of its loops. */
export interface CaseCoverage {
  readonly report: CoverageReport;
  /** Parts that one case touches and no other: by the id of the part, the case. */
  readonly alone: ReadonlyMap<string, string>;
}

/** Runs all cases with counters on. The logic of a loop that has no case is untouched, and missing. */
export function caseCoverage({ loops, cases }: Pick<CheckedProject, 'loops' | 'cases'>): CaseCoverage {
  const coverage = new Coverage();
  // What a variant has beside its loop counts once it is run.
  for (const { plan } of loops.values()) if (!plan.loop.includes('/')) coverage.add(plan, untouched(plan));
  const touchedBy = new Map<string, string[]>();
  for (const { experiment } of cases) {
    const outcome = simulate({ ...experiment, coverage: true });
    const touched = touchedIn(experiment.plan, outcome);
    coverage.add(experiment.plan, touched);
    const own = new Coverage();
    own.add(experiment.plan, touched);
    const { items, conditions } = own.report();
    for (const { id, gap } of [...items, ...conditions]) if (gap === undefined) touchedBy.set(id, [...(touchedBy.get(id) ?? []), experiment.case]);
    recycleTrace(outcome.trace);
  }
  const alone = new Map(
    [...touchedBy].flatMap(([id, [first, ...others]]) => (first !== undefined && others.length === 0 ? [[id, first] as const] : [])),
  );
  return { report: coverage.report(), alone };
}
