import { evaluate, type Node, type SlotNumber, slotsRead } from '@/core/plan';
import { mostWays } from './asked';
import type { Literal, Situation } from './situation';

/** Values that a number may have; an end that is open does not belong to it. */
interface Range {
  readonly low: number;
  readonly high: number;
  readonly lowOpen: boolean;
  readonly highOpen: boolean;
}

const all: Range = { low: Number.NEGATIVE_INFINITY, high: Number.POSITIVE_INFINITY, lowOpen: false, highOpen: false };

/**
 * Why something cannot come about in any run, where that is plain from what it asks for at one instant: parts that contradict each other, conditions that are constant. Of declared ranges nothing is taken for
 * granted, since a fault on a wire may leave them. This is the place for a solver, which would see more.
 * @param situations every way in which it could come about
 */
export function unreachableBecause(situations: readonly Situation[]): string | undefined {
  // There may be more ways than were looked at.
  if (situations.length === 0 || situations.length >= mostWays) return undefined;
  const reasons = situations.map(contradictionIn);
  return reasons.every((one) => one !== undefined) ? reasons[0] : undefined;
}

function contradictionIn(situation: Situation): string | undefined {
  const truths = new Map<string, { readonly value: boolean; readonly literal: Literal }>();
  const ranges = new Map<SlotNumber, { readonly range: Range; readonly literal: Literal }>();
  for (const literal of situation) {
    if (literal.k === 'truth') {
      const constant = constantOf(literal.node);
      if (constant !== undefined && (constant !== 0) !== literal.value) return `"${literal.text}" is always ${literal.value ? 'FALSE' : 'TRUE'}`;
      const key = JSON.stringify(literal.node);
      const other = truths.get(key);
      if (other && other.value !== literal.value) return `"${literal.text}" would have to be TRUE and FALSE at one time`;
      truths.set(key, { value: literal.value, literal });
      const state = literal.value ? stateAsked(literal.node) : undefined;
      const clash = state && [...truths.values()].find((one) => one.value && isOtherState(one.literal, state));
      if (clash) return `"${clash.literal.text}" and "${literal.text}" would have to be active at one time`;
    }
    if (literal.k !== 'bound') continue;
    const constant = constantOf(literal.distance);
    if (constant !== undefined && (constant < 0 || (constant === 0 && literal.strict))) return `"${literal.text}" can never be so`;
    const asked = rangeAsked(literal);
    if (!asked) continue;
    const before = ranges.get(asked.slot);
    const range = common(asked.range, before?.range ?? all);
    if (before && isEmpty(range)) return `"${before.literal.text}" and "${literal.text}" would have to be so at one time`;
    ranges.set(asked.slot, { range, literal });
  }
  return undefined;
}

/** Of an expression that reads nothing. */
function constantOf(node: Node): number | undefined {
  return slotsRead(node).size === 0 ? evaluate(node, () => Number.NaN) : undefined;
}

/** The region and the state that a test of a state asks for. */
function stateAsked(node: Node): { readonly slot: SlotNumber; readonly state: number } | undefined {
  return node.k === 'compare' && node.operator === '=' && node.a.k === 'slot' && node.b.k === 'const'
    ? { slot: node.a.slot, state: node.b.value }
    : undefined;
}

function isOtherState(literal: Literal, { slot, state }: { readonly slot: SlotNumber; readonly state: number }): boolean {
  const other = literal.k === 'truth' ? stateAsked(literal.node) : undefined;
  return other !== undefined && other.slot === slot && other.state !== state;
}

/** What a limit asks of the one signal it is a straight line of. */
function rangeAsked({ distance, strict }: Literal & { readonly k: 'bound' }): { readonly slot: SlotNumber; readonly range: Range } | undefined {
  const [slot, ...others] = [...slotsRead(distance)];
  if (slot === undefined || others.length > 0 || !isStraight(distance)) return undefined;
  const at = (value: number): number => evaluate(distance, () => value) ?? Number.NaN;
  const slope = at(1) - at(0);
  const limit = -at(0) / slope;
  if (!Number.isFinite(limit) || slope === 0) return undefined;
  return { slot, range: slope > 0 ? { ...all, low: limit, lowOpen: strict } : { ...all, high: limit, highOpen: strict } };
}

/** Sums and differences of signals and numbers. */
function isStraight(node: Node): boolean {
  if (node.k === 'slot' || node.k === 'const') return true;
  if (node.k === 'negate' || (node.k === 'convert' && node.how === 'widen')) return isStraight(node.a);
  return node.k === 'arithmetic' && (node.operator === '+' || node.operator === '-') && isStraight(node.a) && isStraight(node.b);
}

function common(a: Range, b: Range): Range {
  const [lower, higher] = [a.low > b.low || (a.low === b.low && a.lowOpen) ? a : b, a.high < b.high || (a.high === b.high && a.highOpen) ? a : b];
  return { low: lower.low, lowOpen: lower.lowOpen, high: higher.high, highOpen: higher.highOpen };
}

function isEmpty({ low, high, lowOpen, highOpen }: Range): boolean {
  return low > high || (low === high && (lowOpen || highOpen));
}
