import { encode } from '@/core/exchange';
import { countersOf, type Plan } from '@/core/plan';
import type { RunOutcome } from '@/core/simulate';

/** What runs did in the logic of a plan: small enough to be kept with them, and to be put together for many. */
export interface Touched {
  /** As `countersOf` lays them out: how often each decision came out TRUE and FALSE, and a bit for each combination that occurred, 32 in a word. */
  readonly counts: readonly number[];
  /** How often each state was entered, by its mark. */
  readonly entered: readonly number[];
}

/**
 * What a run touched.
 * @param outcome of a run of the plan with its counters on
 * @throws RangeError where it has no counters, or those of another plan
 */
export function touchedIn(plan: Plan, { trace: { marks }, coverage }: Pick<RunOutcome, 'trace' | 'coverage'>): Touched {
  if (coverage.length !== countersOf(plan).size) throw new RangeError('the run has no counters, or those of another plan');
  const entered = untouched(plan).entered.slice();
  marks.mark.forEach((mark, index) => {
    if (marks.entered[index] === 1) entered[mark] = (entered[mark] ?? 0) + 1;
  });
  return { counts: [...coverage], entered };
}

/** Nothing yet. */
export function untouched(plan: Plan): Touched & { readonly entered: number[] } {
  const marks = plan.regions.flatMap(({ states }) => states.map((one) => one.mark));
  return { counts: Array.from({ length: countersOf(plan).size }, () => 0), entered: Array.from({ length: Math.max(-1, ...marks) + 1 }, () => 0) };
}

/** Both together: counts add up, combinations are united. */
export function together(plan: Plan, one: Touched, other: Touched): Touched {
  const counts = one.counts.map((count, index) => count + (other.counts[index] ?? 0));
  for (const { combinations } of countersOf(plan).of)
    if (combinations)
      for (let at = combinations.at; at < combinations.at + combinations.words; at += 1)
        counts[at] = ((one.counts[at] ?? 0) | (other.counts[at] ?? 0)) >>> 0;
  return { counts, entered: one.entered.map((count, mark) => count + (other.entered[mark] ?? 0)) };
}

const shapes = new WeakMap<Plan, string>();

/** Of plans with the same text the counters mean the same and may be put together, though values or solvers differ. */
export function logicOf(plan: Plan): string {
  const known = shapes.get(plan) ?? encode({ loop: plan.loop, decisions: plan.decisions, transitions: plan.transitions, regions: plan.regions });
  shapes.set(plan, known);
  return known;
}
