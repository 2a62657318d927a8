import type { Node } from '../plan';
import { type Scan, type Signals, scan } from './scan';

/** The least of a quantity over a window; no value was missing in it. */
export interface LeastValue {
  readonly value: number;
  readonly complete: boolean;
}

/** Infimum over [from, until) or [from, until]. */
export type LeastOver = (from: number, until: number, closed: boolean) => LeastValue;

/**
 * Many criteria hold one quantity against different bounds: `level <= 4.2 m` and `level >= 0.7 m` ask for the greatest and the least level. What a bound adds is taken off,
 * and the rest is followed once for all criteria of a run. Rounding keeps the order of values, so the least of `c − x` is exactly `c −` the greatest of x.
 */
export function leastOf(node: Node, signals: Signals): LeastOver {
  const { core, falls, back } = peeled(node, signals);
  const found = followed(falls ? { k: 'negate', type: 'LREAL', a: core, site: 0 } : core, signals);
  return (from, until, closed) => {
    const key = `${from} ${until} ${closed}`;
    let least = found.windows.get(key);
    if (!least) {
      const { value, complete } = found.scan.least(from, until, closed);
      least = { value, complete };
      found.windows.set(key, least);
    }
    const value = back(falls ? -least.value : least.value);
    return Number.isNaN(value) ? { value: Number.POSITIVE_INFINITY, complete: false } : { value, complete: least.complete };
  };
}

interface Followed {
  readonly scan: Scan;
  readonly windows: Map<string, LeastValue>;
}

const followedOfRuns = new WeakMap<Signals, Map<string, Followed>>();
/** Texts by the very expression: a criterion is judged on many runs. */
const keys = new WeakMap<Node, string>();

function followed(node: Node, signals: Signals): Followed {
  const key = keys.get(node) ?? JSON.stringify(node);
  keys.set(node, key);
  const run = followedOfRuns.get(signals) ?? new Map<string, Followed>();
  const found = run.get(key) ?? { scan: scan(node, false, signals), windows: new Map() };
  followedOfRuns.set(signals, run.set(key, found));
  return found;
}

/** A quantity as what is left of it without constants added or taken off, whether it falls while that rises, and the way back. */
interface Peeled {
  readonly core: Node;
  readonly falls: boolean;
  back(value: number): number;
}

function peeled(node: Node, signals: Signals): Peeled {
  const further = (inner: Node, falls: boolean, step: (value: number) => number): Peeled => {
    const rest = peeled(inner, signals);
    return { core: rest.core, falls: rest.falls !== falls, back: (value) => step(rest.back(value)) };
  };
  if (node.k === 'negate') return further(node.a, true, (value) => -value);
  if (node.k === 'arithmetic' && node.type === 'LREAL' && (node.operator === '+' || node.operator === '-')) {
    const { a, b, operator } = node;
    const [left, right] = [constantOf(a, signals), constantOf(b, signals)];
    if (right !== undefined) return further(a, false, operator === '+' ? (value) => value + right : (value) => value - right);
    if (left !== undefined) return further(b, operator === '-', operator === '+' ? (value) => left + value : (value) => left - value);
  }
  return { core: node, falls: false, back: (value) => value };
}

function constantOf(node: Node, signals: Signals): number | undefined {
  if (node.k === 'const') return node.value;
  return node.k === 'slot' && !signals.column(node.slot) ? signals.constant(node.slot) : undefined;
}
