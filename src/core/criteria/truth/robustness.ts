import { arithmetic, call, constant, type Node, negative } from '@/core/plan';
import type { Atom, Condition, Margin } from '../types';
import { leastOf } from './least';
import { firstFrom, RangeLeast } from './rangeLeast';
import { type Scan, type Signals, scan } from './scan';
import { entryAt, type Timeline, type Truth } from './timeline';

type Bound = Atom & { readonly k: 'bound' };

/** The numeric content of an atom; truths are ±∞ so that MIN and MAX leave them out where a bound decides. */
function spaceNode(condition: Condition, atoms: readonly Atom[]): Node {
  switch (condition.k) {
    case 'atom': {
      const atom = atoms[condition.atom] as Atom;
      if (atom.k === 'bound') {
        return atom.scale === 1 ? atom.distance : arithmetic('LREAL', '/', atom.distance, constant('LREAL', atom.scale));
      }
      const infinite = (value: number): Node => constant('LREAL', value);
      return { k: 'select', type: 'LREAL', condition: atom.value, yes: infinite(Number.POSITIVE_INFINITY), no: infinite(Number.NEGATIVE_INFINITY) };
    }
    case 'not':
      return negative(spaceNode(condition.a, atoms));
    case 'and':
    case 'or':
      return call('LREAL', condition.k === 'and' ? 'MIN' : 'MAX', [spaceNode(condition.a, atoms), spaceNode(condition.b, atoms)]);
  }
}

/** A condition belongs to one criterion, so its expression is made once. */
const spaceNodes = new WeakMap<Condition, Node>();

function knownSpaceNode(condition: Condition, atoms: readonly Atom[]): Node {
  const node = spaceNodes.get(condition) ?? spaceNode(condition, atoms);
  spaceNodes.set(condition, node);
  return node;
}

function atomsOf(condition: Condition): number[] {
  return condition.k === 'atom'
    ? [condition.atom]
    : condition.k === 'not'
      ? atomsOf(condition.a)
      : [...atomsOf(condition.a), ...atomsOf(condition.b)];
}

/**
 * Space robustness (Fainekos & Pappas 2009) of a condition: its least over a window, in the unit of the bound that decides.
 * `undefined` where only truths decide, so that the value is infinite.
 */
export class SpaceRobustness {
  private readonly parts: readonly Part[];
  private readonly onlyBounds: boolean;

  constructor(condition: Condition, atoms: readonly Atom[], signals: Signals) {
    const kinds = atomsOf(condition).map((index) => atoms[index]?.k);
    this.onlyBounds = kinds.every((kind) => kind === 'bound');
    this.parts = kinds.includes('bound') ? conjuncts(condition).map((one) => partOf(one, atoms, signals)) : [];
  }

  /** @returns the margin, and whether it decides alone that the condition held throughout: above 0, and no value was missing */
  least(from: number, until: number, closed: boolean): { readonly margin?: Margin; readonly decides: boolean } {
    let low: PartLeast | undefined;
    let complete = true;
    // The least of an AND is the least of its parts' own.
    for (const part of this.parts) {
      const least = part(from, until, closed);
      complete &&= least.complete;
      if (!low || least.measure < low.measure) low = least;
    }
    const margin = low && Number.isFinite(low.measure) ? low.margin() : undefined;
    return margin ? { margin, decides: margin.measure > 0 && complete && this.onlyBounds } : { decides: false };
  }
}

interface PartLeast {
  readonly measure: number;
  readonly complete: boolean;
  margin(): Margin | undefined;
}

type Part = (from: number, until: number, closed: boolean) => PartLeast;

function conjuncts(condition: Condition): Condition[] {
  return condition.k === 'and' ? [...conjuncts(condition.a), ...conjuncts(condition.b)] : [condition];
}

function partOf(condition: Condition, atoms: readonly Atom[], signals: Signals): Part {
  const isNegated = condition.k === 'not' && condition.a.k === 'atom';
  const only = isNegated ? condition.a : condition;
  const atom = only.k === 'atom' ? atoms[only.atom] : undefined;
  return atom?.k === 'bound' ? boundPart(atom, isNegated, signals) : mixedPart(condition, atoms, signals);
}

/** One bound by itself. */
function boundPart({ distance, unit, scale }: Bound, isNegated: boolean, signals: Signals): Part {
  const least = leastOf(isNegated ? negative(distance) : distance, signals);
  return (from, until, closed) => {
    const { value, complete } = least(from, until, closed);
    const measure = scale === 1 ? value : value / scale;
    return { measure, complete, margin: () => ({ value: value + 0, unit, measure }) };
  };
}

/** Bounds and truths under OR: which bound decides shows only at the least value. */
function mixedPart(condition: Condition, atoms: readonly Atom[], signals: Signals): Part {
  const bounds = atomsOf(condition).flatMap((index) => {
    const atom = atoms[index];
    return atom?.k === 'bound' ? [atom] : [];
  });
  const found = scan(knownSpaceNode(condition, atoms), false, signals);
  return (from, until, closed) => {
    const { value, at, complete } = found.least(from, until, closed);
    const margin = (): Margin | undefined => {
      const bound = bounds.length === 1 ? bounds[0] : deciding(bounds, value, at, found);
      if (!bound) return undefined;
      // With a scale the figure is taken from the bound itself, free of the rounding of the division.
      const own = bound.scale === 1 ? value : Math.sign(value) * Math.abs(found.valueAt(bound.distance, at));
      return { value: own + 0, unit: bound.unit, measure: value };
    };
    return { measure: value, complete, margin };
  };
}

function deciding(bounds: readonly Bound[], value: number, at: readonly number[], from: Scan): Bound | undefined {
  return bounds.reduce<{ bound: Bound; gap: number } | undefined>((best, bound) => {
    const gap = Math.abs(Math.abs(from.valueAt(bound.distance, at)) / bound.scale - Math.abs(value));
    return best && best.gap <= gap ? best : { bound, gap };
  }, undefined)?.bound;
}

/**
 * Time robustness (Donzé & Maler 2010): the least shift in time of a signal that would change the truth; negative where it is false.
 * Signals continue constantly beyond the trace.
 */
export class TimeRobustness {
  private readonly used: readonly number[];

  constructor(
    private readonly condition: Condition,
    private readonly line: (atom: number) => Timeline,
  ) {
    this.used = atomsOf(condition);
  }

  at(t: number): number {
    return this.value(this.condition, (atom) => distance(this.line(atom), t, 0));
  }

  /**
   * Infimum over a stretch of time. Between changes of its atoms, and the instants halfway between them, every distance is a straight line of slope ±1:
   * the least of each such piece is found once, however many windows ask for it.
   */
  least(from: number, until: number): number {
    const { cuts, values } = this.pieces();
    const first = firstFrom(cuts, from);
    const last = cuts[firstFrom(cuts, until)] === until ? firstFrom(cuts, until) : firstFrom(cuts, until) - 1;
    const ends = Math.min(this.at(from), this.at(until));
    if (first > last) return Math.min(ends, from < until ? this.leastInside(from, until) : Number.POSITIVE_INFINITY);
    const [low, high] = [cuts[first] as number, cuts[last] as number];
    const head = low > from ? Math.min(this.leastInside(from, low), this.at(low)) : Number.POSITIVE_INFINITY;
    const tail = high < until ? Math.min(this.at(high), this.leastInside(high, until)) : Number.POSITIVE_INFINITY;
    return Math.min(ends, head, values.least(first, last), tail);
  }

  private known: { readonly cuts: readonly number[]; readonly values: RangeLeast } | undefined;

  private pieces() {
    if (this.known) return this.known;
    const cuts = [...new Set(this.used.flatMap((atom) => corners(this.line(atom))))].sort((a, b) => a - b);
    const values = Float64Array.from({ length: Math.max(0, cuts.length - 1) }, (_, index) => {
      const [a, b] = [cuts[index] as number, cuts[index + 1] as number];
      return Math.min(this.at(a), this.leastInside(a, b));
    });
    this.known = { cuts, values: new RangeLeast(values) };
    return this.known;
  }

  private leastInside(a: number, b: number): number {
    const starts = new Map(this.used.map((atom) => [atom, distance(this.line(atom), a, 1)]));
    const ends = new Map(this.used.map((atom) => [atom, distance(this.line(atom), b, -1)]));
    const shares = [0, 1];
    for (const p of this.used) {
      for (const q of this.used) {
        for (const sign of [1, -1]) {
          const start = (starts.get(p) as number) - sign * (starts.get(q) as number);
          const end = (ends.get(p) as number) - sign * (ends.get(q) as number);
          if (start * end < 0) shares.push(start / (start - end));
        }
      }
    }
    return Math.min(...shares.map((share) => this.value(this.condition, (atom) => mix(starts.get(atom) as number, ends.get(atom) as number, share))));
  }

  private value(condition: Condition, of: (atom: number) => number): number {
    switch (condition.k) {
      case 'atom':
        return of(condition.atom);
      case 'not':
        return -this.value(condition.a, of);
      case 'and':
        return Math.min(this.value(condition.a, of), this.value(condition.b, of));
      case 'or':
        return Math.max(this.value(condition.a, of), this.value(condition.b, of));
    }
  }
}

function mix(a: number, b: number, share: number): number {
  if (share === 0 || a === b) return a;
  return share === 1 ? b : a + share * (b - a);
}

/** Signed distance from `t` to the nearest instant of other truth; `side` takes the truth just before (−1), at (0) or right after (1) it. */
function distance(line: Timeline, t: number, side: -1 | 0 | 1): number {
  const entry = entryAt(line, t);
  const truth = truthBeside(line, t, entry, side);
  const inside = (i: number): boolean => (line.time[i] as number) < line.until && line.span[i] !== truth;
  let least = Number.POSITIVE_INFINITY;
  for (let i = entry; i >= 0 && least === Number.POSITIVE_INFINITY; i -= 1) {
    if (inside(i)) least = Math.max(0, t - (line.time[i + 1] ?? line.until));
    else if (line.point[i] !== truth) least = t - (line.time[i] as number);
  }
  for (let i = entry + 1; i < line.time.length; i += 1) {
    if (line.point[i] !== truth || inside(i)) {
      least = Math.min(least, (line.time[i] as number) - t);
      break;
    }
  }
  return truth === 1 ? least : -least;
}

function truthBeside(line: Timeline, t: number, entry: number, side: -1 | 0 | 1): Truth {
  if (line.time[entry] !== t) return line.span[entry] ?? 2;
  if (side < 0 && entry > 0) return line.span[entry - 1] ?? 2;
  return (side > 0 && t < line.until ? line.span[entry] : line.point[entry]) ?? 2;
}

/** Changes of a timeline, and the instants halfway between them, where the nearest change passes to the other side. */
function corners(line: Timeline): number[] {
  return line.time.flatMap((t, i) => {
    const next = line.time[i + 1];
    return [...(i > 0 ? [t] : []), ...(next === undefined ? [] : [(t + next) / 2])];
  });
}
