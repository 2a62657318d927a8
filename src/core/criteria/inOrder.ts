import { addTime, clean } from './seconds';
import type { Obligation } from './types';

/**
 * `sequence A then B then C within D`: from each A on, B must be the next to come, then C, each later than the one before, the last no later than D after A.
 * One that comes before its turn breaks it at once. Repeated events of earlier kinds do no harm.
 * @param events instants (s) of each kind, ascending
 * @param end of the trace (s)
 */
export function inOrder(events: readonly (readonly number[])[], seconds: number | undefined, end: number): Obligation[] {
  return (events[0] ?? []).map((from) => follow(events, from, seconds === undefined ? Number.POSITIVE_INFINITY : addTime(from, seconds), end));
}

function follow(events: readonly (readonly number[])[], from: number, deadline: number, end: number): Obligation {
  const after = (kind: number, t: number): number => events[kind]?.find((one) => one > t) ?? Number.POSITIVE_INFINITY;
  const common = { from, until: Number.isFinite(deadline) ? deadline : end };
  let at = from;
  for (let kind = 1; kind < events.length; kind += 1) {
    const next = after(kind, at);
    const early = Math.min(...events.slice(kind + 1).map((_, later) => after(kind + 1 + later, at)), Number.POSITIVE_INFINITY);
    if (early < next && early <= deadline) return { ...common, outcome: 'broken', at: early };
    // Beyond the deadline the order is no longer asked; how late the last one came is.
    at = next;
  }
  const left = deadline - at;
  if (at <= deadline && at <= end)
    return { ...common, outcome: 'met', at, ...(Number.isFinite(left) ? { margin: { value: clean(left), unit: 's', measure: left } } : {}) };
  if (end < deadline || deadline === Number.POSITIVE_INFINITY) return { ...common, outcome: 'open', at: end };
  const late = at === Number.POSITIVE_INFINITY ? deadline - end : left;
  const margin = { value: clean(late), unit: 's', measure: late, ...(at === Number.POSITIVE_INFINITY ? { atLeast: true } : {}) };
  return { ...common, outcome: 'broken', at: deadline, margin };
}
