import { Coverage, type CoverageReport, touchedIn } from '@/core/coverage';
import type { Margin } from '@/core/criteria';
import { type CheckedCase, type CheckedProject, type CriterionResult, judgeOutcome, orderRun } from '@/core/project';
import { type RunOutcome, simulate } from '@/core/simulate';

/** Something a run can show. */
export interface Goal {
  /** Stays the same when other text changes. */
  readonly id: string;
  readonly kind: 'triggered' | 'broken' | 'state' | 'transition' | 'outcome' | 'row' | 'decides';
  readonly words: string;
}

/** What a run has shown: ids of goals, with what its criteria and its logic did. */
export interface Showing {
  readonly reached: ReadonlySet<string>;
  /** How far a run was from breaking each criterion that it met: the least margin, where there are margins. By the id of the goal. */
  readonly distances: ReadonlyMap<string, Margin>;
  readonly results: readonly CriterionResult[];
  readonly outcome: RunOutcome;
}

export type GoalKind = Goal['kind'];

/** Goals of a loop: each accepted criterion triggered, and broken; each part of its logic touched. */
export function goalsOf(project: CheckedProject, test: CheckedCase, kinds: ReadonlySet<GoalKind>): Goal[] {
  const { experiment } = test;
  const untouched = new Coverage();
  untouched.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, stopNs: 1, coverage: true })));
  const goals = [...criterionGoals(orderRun(project, test).watched), ...logicGoals(untouched.report())];
  return goals.filter((one) => kinds.has(one.kind));
}

function criterionGoals(watched: readonly { readonly requirement: string; readonly name: string }[]): Goal[] {
  return watched.flatMap(({ requirement, name }): Goal[] => [
    { id: `triggered ${requirement} ${name}`, kind: 'triggered', words: `${requirement} ${name} is triggered` },
    { id: `broken ${requirement} ${name}`, kind: 'broken', words: `${requirement} ${name} is broken` },
  ]);
}

function logicGoals({ items, conditions }: CoverageReport): Goal[] {
  return [
    ...items.map(({ id, kind, words }): Goal => ({ id, kind, words: kind === 'state' ? `${words} is entered` : words })),
    // A pair takes two runs as a rule: one in which the condition makes the outcome TRUE, one in which it makes it FALSE.
    ...conditions.flatMap(({ id, text, of }) =>
      [true, false].map(
        (outcome): Goal => ({
          id: `${id} makes ${outcome}`,
          kind: 'decides',
          words: `"${text}" alone makes ${of} ${outcome ? 'TRUE' : 'FALSE'}`,
        }),
      ),
    ),
  ];
}

/** Makes the run of a case, and says what it shows. */
export function showingOf(project: CheckedProject, test: CheckedCase): Showing {
  const { watched } = orderRun(project, test);
  const { plan } = test.experiment;
  const outcome = simulate({ ...test.experiment, coverage: true });
  const results = judgeOutcome(watched, outcome);
  const coverage = new Coverage();
  coverage.add(plan, touchedIn(plan, outcome));
  const { items, conditions } = coverage.report();
  const reached = new Set<string>();
  // A run that could not go on shows nothing; one whose plant is not to be believed shows nothing of a criterion.
  const distances = new Map<string, Margin>();
  if (outcome.error) return { reached, distances, results, outcome };
  for (const { requirement, name, verdict, obligations, worst } of outcome.implausible.length > 0 ? [] : results) {
    if (verdict !== 'none') reached.add(`triggered ${requirement} ${name}`);
    if (verdict === 'fail') reached.add(`broken ${requirement} ${name}`);
    const margin = worst === undefined ? undefined : obligations[worst]?.margin;
    if (verdict === 'pass' && margin !== undefined) distances.set(`broken ${requirement} ${name}`, margin);
  }
  for (const { id, count } of items) if (count > 0) reached.add(id);
  for (const { id, deciding } of conditions) for (const outcomeOfIt of deciding) reached.add(`${id} makes ${outcomeOfIt}`);
  return { reached, distances, results, outcome };
}
