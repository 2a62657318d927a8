import { type Atom, type Condition, type CriterionEvent, PartCompiler, type Trigger } from '@/core/criteria';
import { Faults } from '@/core/fault';
import { FormulaText } from '@/core/formula';
import type { Catalogue } from '@/core/loop';
import { integerRange, type Plan, slotsRead } from '@/core/plan';
import { loneText } from '@/core/yaml';
import { type Boundary, boundariesOf, type Length, type Side } from './boundary';

/** A limit of a quantity: the atom's distance is above 0 where it holds. Within `near` of it, in its unit, is only just. */
export interface BoundLimit {
  readonly atom: Atom & { readonly k: 'bound' };
  readonly side: Side;
  readonly near: number;
}

/** The borders of a criterion, bound to the signals of a loop. Times in seconds; `hit` is the time between two hits of the fastest task. */
export type BoundBoundary = { readonly key: string; readonly words: string; readonly atoms: readonly Atom[] } & (
  | { readonly k: 'event'; readonly event: Trigger; readonly before?: Condition; readonly with?: Condition }
  | { readonly k: 'holds'; readonly of: Condition }
  | ({ readonly k: 'turns'; readonly within?: Condition } & BoundLimit)
  | ({ readonly k: 'at event'; readonly event: Trigger; readonly before?: Condition } & BoundLimit)
  | { readonly k: 'lasts'; readonly of: Condition; readonly seconds: number; readonly length: Length; readonly hit: number }
  | { readonly k: 'interrupted'; readonly of: Condition; readonly seconds: number }
  | { readonly k: 'again' }
  | { readonly k: 'order'; readonly events: readonly CriterionEvent[] }
);

/** What is asked of a plan: types of its signals, and how often its tasks run. */
type Sampled = { readonly slots: readonly Pick<Plan['slots'][number], 'type'>[]; readonly tasks: readonly Pick<Plan['tasks'][number], 'periodNs'>[] };

/** Part of what counts as far for a quantity that is only just. */
const justShare = 0.01;

const known = new WeakMap<Catalogue, Map<string, readonly BoundBoundary[]>>();

/** The borders of a criterion in a loop. @param sentence one that is sound in that loop */
export function boundBoundaries(sentence: string, catalogue: Catalogue, plan: Sampled): readonly BoundBoundary[] {
  const ofLoop = known.get(catalogue) ?? new Map<string, readonly BoundBoundary[]>();
  known.set(catalogue, ofLoop);
  const found = ofLoop.get(sentence) ?? boundariesOf(sentence).flatMap((one) => bind(one, catalogue, plan) ?? []);
  ofLoop.set(sentence, found);
  return found;
}

function bind(boundary: Boundary, catalogue: Catalogue, plan: Sampled): BoundBoundary | undefined {
  const parts = new PartCompiler(new FormulaText(loneText('boundary', ''), [], '', new Faults()), catalogue);
  const { key, words } = boundary;
  const common = { key, words, atoms: parts.atoms };
  switch (boundary.k) {
    case 'event': {
      const event = parts.trigger(boundary.event);
      const [before, withIt] = [boundary.before && parts.condition(boundary.before), boundary.with && parts.condition(boundary.with)];
      return event && { ...common, k: 'event', event, ...(before ? { before } : {}), ...(withIt ? { with: withIt } : {}) };
    }
    case 'holds': {
      const of = parts.condition(boundary.of);
      return of && { ...common, k: 'holds', of };
    }
    case 'turns': {
      const limit = limitOf(parts, boundary, plan);
      const within = boundary.within && parts.condition(boundary.within);
      return limit && { ...common, k: 'turns', ...limit, ...(within ? { within } : {}) };
    }
    case 'at event': {
      const [limit, event] = [limitOf(parts, boundary, plan), parts.trigger(boundary.event)];
      const before = boundary.during && parts.condition(boundary.during);
      return limit && event && { ...common, k: 'at event', ...limit, event, ...(before ? { before } : {}) };
    }
    case 'lasts':
    case 'interrupted': {
      const of = parts.condition(boundary.of);
      const { seconds } = boundary;
      if (boundary.k === 'interrupted') return of && { ...common, k: 'interrupted', of, seconds };
      return of && { ...common, k: 'lasts', of, seconds, length: boundary.length, hit: hitOf(plan, seconds) };
    }
    case 'again':
      return { ...common, k: 'again' };
    case 'order':
      return { ...common, k: 'order', events: boundary.events.flatMap((one) => parts.event(one) ?? []) };
  }
}

function limitOf(parts: PartCompiler, { of, side }: Boundary & { k: 'turns' | 'at event' }, { slots }: Sampled): BoundLimit | undefined {
  const condition = parts.condition(of);
  const atom = condition?.k === 'atom' ? parts.atoms[condition.atom] : undefined;
  if (atom?.k !== 'bound') return undefined;
  // Between two whole numbers there is nothing.
  const isWhole = [...slotsRead(atom.distance)].every((slot) => integerRange[slots[slot]?.type ?? 'LREAL'] !== undefined);
  return { atom, side, near: isWhole ? 1 : roundDown(justShare * atom.scale) };
}

/** To one digit, so that it can be said. */
function roundDown(value: number): number {
  const digit = 10 ** Math.floor(Math.log10(value));
  return Number((Math.floor(value / digit) * digit).toPrecision(1));
}

/** Seconds between two hits of the fastest task; where nothing is sampled, a hundredth of the time something has to last. */
function hitOf({ tasks }: Sampled, seconds: number): number {
  return tasks.length > 0 ? Math.min(...tasks.map(({ periodNs }) => periodNs)) / 1e9 : seconds / 100;
}
