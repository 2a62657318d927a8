import { firstAfter } from '../truth/instants';
import { addTime, marginOf } from '../truth/seconds';
import type { Obligation } from '../types';

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
  const common = { from, until: Number.isFinite(deadline) ? deadline : end };
  let at = from;
  for (let kind = 1; kind < events.length; kind += 1) {
    const next = firstAfter(events[kind] ?? [], at);
    const early = Math.min(...events.slice(kind + 1).map((later) => firstAfter(later, at)));
    // Beyond the deadline the order is no longer asked, only how late the last one came.
    if (early < next && early <= deadline) return { ...common, outcome: 'broken', at: early };
    at = next;
  }
  const timed = Number.isFinite(deadline);
  if (at <= deadline && at < Number.POSITIVE_INFINITY)
    return { ...common, outcome: 'met', at, ...(timed ? { margin: marginOf(deadline - at) } : {}) };
  if (end < deadline) return { ...common, outcome: 'open', at: end };
  const never = at === Number.POSITIVE_INFINITY;
  return { ...common, outcome: 'broken', at: deadline, margin: marginOf(deadline - (never ? end : at), never) };
}
