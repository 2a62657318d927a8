import { scan, signalsOf, stretches } from '@/core/criteria';
import { encode } from '@/core/exchange';
import { countersOf, type Plan } from '@/core/plan';
import type { RunOutcome } from '@/core/simulate';

/** What runs did in the logic of a plan: small enough to be kept with them, and to be put together for many. */
export interface Touched {
  /** As `countersOf` lays them out: how often each decision came out TRUE and FALSE, and a bit for each combination that occurred, 32 in a word. */
  readonly counts: readonly number[];
  /** How often each state was entered and each message sent, by its mark. */
  readonly entered: readonly number[];
  /** How often each position of an element was taken up, in the order of the plan; nothing in what was kept before they were counted. */
  readonly positions?: readonly number[];
}

/**
 * What a run touched.
 * @param outcome of a run of the plan with its counters on
 * @throws RangeError where it has no counters, or those of another plan
 */
export function touchedIn(plan: Plan, { trace, slots, coverage }: Pick<RunOutcome, 'trace' | 'slots' | 'coverage'>): Touched {
  const { marks } = trace;
  if (coverage.length !== countersOf(plan).size) throw new RangeError('the run has no counters, or those of another plan');
  const entered = untouched(plan).entered.slice();
  marks.mark.forEach((mark, index) => {
    if (marks.entered[index] === 1) entered[mark] = (entered[mark] ?? 0) + 1;
  });
  const signals = signalsOf(trace, (slot) => slots[slot] ?? Number.NaN);
  const positions = plan.positions.map(({ node }) => stretches(scan(node, true, signals).timeline(false)).length);
  return { counts: [...coverage], entered, positions };
}

/** Nothing yet. */
export function untouched(plan: Plan): Required<Touched> & { readonly entered: number[] } {
  const marks = [...plan.regions.flatMap(({ states }) => states), ...plan.messages].map((one) => one.mark);
  const none = (length: number): number[] => Array.from({ length }, () => 0);
  return { counts: none(countersOf(plan).size), entered: none(Math.max(-1, ...marks) + 1), positions: none(plan.positions.length) };
}

/** Both together: counts add up, combinations are united. */
export function together(plan: Plan, one: Touched, other: Touched): Touched {
  const counts = one.counts.map((count, index) => count + (other.counts[index] ?? 0));
  for (const { combinations } of countersOf(plan).of)
    if (combinations)
      for (let at = combinations.at; at < combinations.at + combinations.words; at += 1)
        counts[at] = ((one.counts[at] ?? 0) | (other.counts[at] ?? 0)) >>> 0;
  const sum = (a: readonly number[], b: readonly number[]): number[] => a.map((count, at) => count + (b[at] ?? 0));
  const none = untouched(plan).positions;
  const positions = sum(one.positions ?? none, other.positions ?? none);
  return { counts, entered: sum(one.entered, other.entered), positions };
}

const shapes = new WeakMap<Plan, string>();

/** Of plans with the same text the counters mean the same and may be put together, though values or solvers differ. */
export function logicOf(plan: Plan): string {
  const known =
    shapes.get(plan) ??
    encode({ loop: plan.loop, decisions: plan.decisions, transitions: plan.transitions, regions: plan.regions, positions: plan.positions });
  shapes.set(plan, known);
  return known;
}
