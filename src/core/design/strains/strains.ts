import type { Derived, Handed, RoundTold } from './strain';

/** How many strains there are, whatever the number of threads: what is found follows from the seed alone. */
export const strainCount = 4;

/** Where strains live: in threads as a rule. Those of one lane take turns. */
export interface Lane {
  round(strain: number, runs: number, received: readonly Handed[]): Promise<RoundTold>;
  ending(strain: number): Promise<Derived>;
}

/** When a search ends: after so many runs in all, or at the end of a round once something says so. */
export interface Budget {
  readonly runs: number;
  readonly isOver?: () => boolean;
}

/** Runs of a strain in its first round, and at most in one. */
const [firstRound, longestRound] = [10, 80];

/**
 * Looks for cases in several strains. After each round they tell each other what they have found (island model, after J. P. Cohoon and others 1987, from memory); what one history finds another misses.
 * @param lanes strains are shared out over them
 */
export async function searchInStrains(lanes: readonly Lane[], budget: Budget): Promise<Derived> {
  const laneOf = (strain: number): Lane => lanes[strain % lanes.length] as Lane;
  let found: readonly (readonly Handed[])[] = Array.from({ length: strainCount }, () => []);
  let runs = 0;
  let isDone = false;
  for (let round = firstRound; !isDone; round = Math.min(longestRound, 2 * round)) {
    const share = Math.max(0, Math.min(round, Math.ceil((budget.runs - runs) / strainCount)));
    const received = (strain: number): Handed[] => found.flatMap((of, index) => (index === strain ? [] : of));
    const told = await inLanes(lanes, (strain) => laneOf(strain).round(strain, share, received(strain)));
    found = told.map((one) => one.found);
    runs = told.reduce((sum, one) => sum + one.runs, 0);
    const left = told.reduce((all, one) => all.filter((id) => one.left.includes(id)), [...(told[0]?.left ?? [])]);
    isDone = left.length === 0 || runs >= budget.runs || budget.isOver?.() === true;
  }
  // The first one gets to know what the others found last, and makes all of it small.
  const first = await laneOf(0).round(0, 0, found.slice(1).flat());
  const derived = await laneOf(0).ending(0);
  return { ...derived, runs: runs + derived.runs - first.runs };
}

/** Asks all strains: those of one lane one after the other, the lanes beside each other. */
async function inLanes<T>(lanes: readonly Lane[], ask: (strain: number) => Promise<T>): Promise<T[]> {
  const answers: T[] = [];
  await Promise.all(
    lanes.map(async (_, lane) => {
      for (let strain = lane; strain < strainCount; strain += lanes.length) answers[strain] = await ask(strain);
    }),
  );
  return answers;
}
