import type { Margin } from '@/core/criteria';
import { type CheckedCase, type CheckedProject, orderRun, type RunOrder } from '@/core/project';
import { brokenId, type GoalKind } from './goals/goals';
import { Search, type SearchSettings } from './search/search';
import { type DerivedCase, suiteOf } from './suite';

/** A criterion that was tried to be broken, and what came of it. */
export interface Attempt {
  readonly requirement: string;
  readonly criterion: string;
  /** Runs in which it was triggered. */
  readonly tries: number;
  /** The case that breaks it, small. */
  readonly breaks?: DerivedCase;
  /** The least margin there was, where it was not broken and has margins. */
  readonly least?: Margin;
}

type WatchedHere = RunOrder['watched'][number];

/**
 * Tries to break accepted criteria of a case's loop: by whatever the free inputs may do, by parameters and starts that may vary, or by the latter alone where the case keeps its course.
 * @param isAimed criteria that are tried
 * @param runs how many runs are made at most; it ends before where all are broken
 * @returns one for each criterion that is tried, the search that tried them, and after how many runs it ended
 * @throws Error in words, of a quantity that cannot vary
 */
export function tryToBreak(
  project: CheckedProject,
  template: CheckedCase,
  settings: Omit<SearchSettings, 'kinds' | 'isAimed'>,
  isAimed: (criterion: Pick<WatchedHere, 'requirement' | 'name'>) => boolean,
  runs: number,
): { readonly search: Search; readonly attempts: readonly Attempt[]; readonly brokenAfter: number } {
  const aims = orderRun(project, template).watched.filter(isAimed);
  const ids = new Set(aims.map(brokenId));
  const kinds = new Set<GoalKind>(['triggered', 'broken', 'state', 'transition', 'outcome', 'row']);
  const search = new Search(project, template, [], { ...settings, kinds, isAimed: ({ id }) => ids.has(id) });
  while (search.runs < runs && [...ids].some((id) => !search.reached.has(id))) search.step();
  const brokenAfter = search.runs;
  const attempts = aims.map((aim): Attempt => {
    const id = brokenId(aim);
    const [breaks] = search.reached.has(id) ? suiteOf(search, new Set(), (goal) => goal.id === id) : [];
    const least = search.nearestTo(id)?.distance.margin;
    return {
      requirement: aim.requirement,
      criterion: aim.name,
      tries: search.triesOf(id),
      ...(breaks ? { breaks } : {}),
      ...(least ? { least } : {}),
    };
  });
  return { search, attempts, brokenAfter };
}
