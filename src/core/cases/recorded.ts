import type { Plan, SlotNumber } from '@/core/plan';

/** By the very plan and what is recorded besides: runs of one plan share one program. */
const known = new WeakMap<Plan, Map<string, Plan>>();

/**
 * A plan that records some parameters as if they were signals: one that changes during a run has to be judged, and seen, with the value it had at each instant, not with its last.
 */
export function withRecorded(plan: Plan, parameters: readonly SlotNumber[]): Plan {
  const slots = [...new Set(parameters)].filter((slot) => !plan.logged.includes(slot)).sort((a, b) => a - b);
  if (slots.length === 0) return plan;
  const ofPlan = known.get(plan) ?? new Map<string, Plan>();
  known.set(plan, ofPlan);
  const found = ofPlan.get(slots.join()) ?? { ...plan, logged: [...plan.logged, ...slots] };
  ofPlan.set(slots.join(), found);
  return found;
}
