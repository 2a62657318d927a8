import type { Margin } from '@/core/criteria';
import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { type CheckedProject, goalMark, judgeGoals } from '@/core/project';
import type { RawJustification } from '@/core/shapes';
import { type Goal, goalsOf, isOf, type Showing, showingOf } from './goals/goals';
import { emptyCase, familyKinds, loopFor } from './open';

/** A goal of a criterion, with the cases that reach it. */
export interface FamilyGoal extends Pick<Goal, 'id' | 'kind'> {
  /** What it says of the criterion. */
  readonly says: string;
  /** When in its run a case reaches it first (s); of the least margin, the case that shows it. */
  readonly reachedBy: readonly { readonly case: string; readonly at?: number }[];
  /** The least margin of all cases. */
  readonly margin?: Margin;
  /** Why it need not be reached; where the criterion has changed since, it has lapsed. */
  readonly rejected?: RawJustification;
  readonly lapsed?: RawJustification;
  /** What stands for its criterion today. */
  readonly mark: string;
}

/** What cases would have to show of a requirement, and which of it they do. */
export interface Family {
  readonly requirement: string;
  readonly text: string;
  readonly loop: string;
  readonly criteria: readonly { readonly name: string; readonly sentence: string; readonly goals: readonly FamilyGoal[] }[];
  /** How many cases were run for it. */
  readonly cases: number;
}

/**
 * The family of goals of a requirement: runs every case of the loops in which it means something.
 * @throws Error in words, where it has no accepted criterion in any loop
 */
export function familyOf(files: readonly SourceFile[], requirement: string): Family {
  const loop = loopFor(files, requirement);
  const { project, template } = emptyCase(files, loop);
  const own = project.criteria.filter((one) => nameKey(one.requirement) === nameKey(requirement) && one.acceptedBy !== undefined);
  const loops = new Set(own.flatMap(({ inLoop }) => [...inLoop.keys()]));
  const cases = project.cases.filter((one) => one !== template && loops.has(one.loop));
  const shown = cases.map((test): ShownCase => {
    return { name: test.experiment.case, showing: showingOf(project, test, (id) => nameKey(id) === nameKey(requirement)) };
  });
  const goals = goalsOf(project, template).filter((goal) => isOf(goal, requirement) && familyKinds.has(goal.kind));
  const raw = project.project.requirements.find((one) => nameKey(one.raw.requirement) === nameKey(requirement))?.raw;
  return {
    requirement: raw?.requirement ?? requirement,
    text: raw?.text ?? '',
    loop,
    criteria: own.map(({ name, sentence }) => ({
      name,
      sentence,
      goals: goals.filter(({ criterion }) => criterion?.name === name).map((goal) => familyGoal(project, goal, shown)),
    })),
    cases: cases.length,
  };
}

type ShownCase = { readonly name: string; readonly showing: Showing };

function reachedBy(id: string, shown: readonly ShownCase[]): FamilyGoal['reachedBy'] {
  return shown.flatMap(({ name, showing }) => {
    const at = showing.places.get(id);
    return showing.reached.has(id) ? [{ case: name, ...(at === undefined ? {} : { at }) }] : [];
  });
}

/** The case that shows the least margin. */
function narrowest(id: string, shown: readonly ShownCase[]): Pick<FamilyGoal, 'reachedBy' | 'margin'> {
  const all = shown.flatMap(({ name, showing }) => {
    const distance = showing.distances.get(id);
    return distance?.margin ? [{ name, ...distance, margin: distance.margin }] : [];
  });
  const [first] = all.sort((a, b) => a.measure - b.measure);
  if (!first) return { reachedBy: [] };
  return { reachedBy: [{ case: first.name, ...(first.at === undefined ? {} : { at: first.at }) }], margin: first.margin };
}

function familyGoal({ project }: CheckedProject, { id, kind, criterion }: Goal, shown: readonly ShownCase[]): FamilyGoal {
  const { justified, lapsed } = judgeGoals(project);
  const [rejected, gone] = [justified.get(id), lapsed.get(id)];
  const by = kind === 'least' ? narrowest(id, shown) : { reachedBy: reachedBy(id, shown) };
  return {
    id,
    kind,
    says: criterion?.says ?? '',
    ...by,
    ...(rejected ? { rejected } : {}),
    ...(gone ? { lapsed: gone } : {}),
    mark: goalMark(project, id),
  };
}
