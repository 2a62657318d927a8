import type { RunOrder } from '@/core/project';
import type { Batch } from './types';

/** The orders from one on that can go to a thread together: those of its very plan. */
export function alikeFrom(orders: readonly RunOrder[], from: number, most: number): RunOrder[] {
  const first = orders[from];
  const some = orders.slice(from, from + most);
  const other = some.findIndex((one) => one.experiment.plan !== first?.experiment.plan || one.limitSeconds !== first.limitSeconds);
  return other < 0 ? some : some.slice(0, other);
}

/** Orders of one plan as they are sent. */
export function batchOf(first: RunOrder, orders: readonly RunOrder[], begun: Int32Array): Batch {
  const { experiment, watched, measured, limitSeconds } = first;
  return {
    plan: experiment.plan,
    watched,
    ...(measured ? { measured } : {}),
    limitSeconds,
    experiments: orders.map(({ experiment: { plan: _, ...rest } }) => rest),
    begun,
  };
}
