import { evaluate, type Plan, type SlotNumber, slotsRead } from '@/core/plan';
import type { Goal } from '../goals/goals';
import type { Literal } from '../goals/situation';
import type { Movable } from './moves';

/** Part of what counts as far by which a value lies just beside a limit. */
const besideShare = 0.005;

/** Numbers that are free, with the values at and just beside the limits that goals ask of them alone. */
export function withNotable(movables: readonly Movable[], goals: readonly Goal[], plan: Plan): Movable[] {
  const literals = new Set(goals.flatMap(({ situations }) => situations.flat()));
  const found = new Map<SlotNumber, Set<number>>();
  for (const literal of literals) {
    const limit = limitOf(literal, plan);
    if (!limit) continue;
    const values = found.get(limit.input) ?? new Set<number>();
    found.set(limit.input, values);
    for (const by of [-limit.beside, 0, limit.beside]) values.add(Number((limit.value + by).toPrecision(12)));
  }
  const slots = new Map(plan.inputs.map(({ name, slot }) => [name, slot]));
  return movables.map((one) => {
    const slot = slots.get(one.name);
    const values = slot === undefined || (one.kind !== 'real' && one.kind !== 'whole') ? undefined : found.get(slot);
    const notable = [...(values ?? [])]
      .map((value) => (one.kind === 'whole' ? Math.round(value) : value))
      .filter((v) => v >= one.low && v <= one.high);
    return notable.length > 0 ? { ...one, notable: [...new Set(notable)] } : one;
  });
}

/** Where a limit lies on the one input that it is a straight line of. */
function limitOf(
  literal: Literal,
  { slots, inputs }: Plan,
): { readonly input: SlotNumber; readonly value: number; readonly beside: number } | undefined {
  if (literal.k !== 'bound' || !literal.isFree) return undefined;
  const free = inputs.filter(({ slot }) => slotsRead(literal.distance).has(slot));
  const input = free[0]?.slot;
  if (input === undefined || free.length > 1) return undefined;
  const at = (value: number): number =>
    evaluate(literal.distance, (slot) => (slot === input ? value : (slots[slot]?.start ?? Number.NaN))) ?? Number.NaN;
  const slope = at(1) - at(0);
  const value = -at(0) / slope;
  const isStraight = Math.abs(at(value)) <= 1e-9 * Math.max(1, Math.abs(at(0)));
  return Number.isFinite(value) && isStraight ? { input, value, beside: besideShare * literal.scale } : undefined;
}
