import { encode } from '@/core/exchange';
import { type Node, negative } from '@/core/plan';
import type { Trace } from '@/core/trace';
import { firstFrom, RangeLeast } from './rangeLeast';
import { type Scan, type Signals, scan } from './scan';
import { sizeOf } from './size';

/** Rounding of a quantity is less than this share of what is left of it without its constants, unless it is next to nothing. */
const smallShare = 1e-3;

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
  const found = followed(falls ? negative(core) : core, signals);
  return (from, until, closed) => {
    const least = found.least(from, until, closed);
    const value = back(falls ? -least.value : least.value);
    // What may be rounding alone is looked at as a whole.
    if (value !== 0 && Math.abs(value) < smallShare * Math.abs(least.value) && sizeOf(node))
      return scan(node, false, signals).least(from, until, closed);
    return Number.isNaN(value) ? { value: Number.POSITIVE_INFINITY, complete: false } : { value, complete: least.complete };
  };
}

/**
 * One quantity along one trace. Windows that overlap (one for each of many triggers, or each to the end of the run) would walk the same rows again and again: once as much has been
 * walked as the trace is long twice over, the least of each of some hundred stretches is found once, and windows walk their ends only.
 */
class Followed {
  private readonly known = new Map<string, LeastValue>();
  private stretches: Stretches | undefined;
  private walked = 0;

  constructor(
    private readonly scan: Scan,
    private readonly trace: Trace,
  ) {}

  least(from: number, until: number, closed: boolean): LeastValue {
    const key = `${from} ${until} ${closed}`;
    const known = this.known.get(key);
    if (known) return known;
    const length = this.trace.until - this.trace.from;
    this.walked += until - from;
    const isBusy = this.walked > 2 * length && (this.trace.bases[0]?.length ?? 0) > 4 * stretchesOfTrace;
    if (isBusy) this.stretches ??= new Stretches(this.trace, this.scan);
    const { value, complete } = this.stretches?.least(from, until, closed) ?? this.scan.least(from, until, closed);
    if (this.known.size < mostKnown) this.known.set(key, { value, complete });
    return { value, complete };
  }
}

const stretchesOfTrace = 512;
const mostKnown = 2_000;

/** The least value of each stretch of a trace, from row to row, and of any run of neighbouring ones. */
class Stretches {
  private readonly edges: readonly number[];
  private readonly values: RangeLeast;
  /** So many stretches up to each one lack a value. */
  private readonly lacking: Uint32Array;

  constructor(
    { bases }: Trace,
    private readonly scan: Scan,
  ) {
    const time = bases[0] as Float64Array;
    const rows = Array.from({ length: stretchesOfTrace }, (_, index) => time[Math.floor((index * time.length) / stretchesOfTrace)] as number);
    this.edges = [...new Set(rows)];
    const found = this.edges.slice(1).map((end, index) => scan.least(this.edges[index] as number, end, false));
    this.values = new RangeLeast(Float64Array.from(found, (one) => one.value));
    this.lacking = new Uint32Array(this.edges.length);
    found.forEach((one, index) => {
      this.lacking[index + 1] = (this.lacking[index] as number) + (one.complete ? 0 : 1);
    });
  }

  least(from: number, until: number, closed: boolean): LeastValue {
    const { edges } = this;
    const first = firstFrom(edges, from);
    const after = firstFrom(edges, until);
    const last = edges[after] === until ? after : after - 1;
    if (first >= last) return this.scan.least(from, until, closed);
    const [low, high] = [edges[first] as number, edges[last] as number];
    const head = low > from ? this.scan.least(from, low, false) : { value: Number.POSITIVE_INFINITY, complete: true };
    const tail = this.scan.least(high, until, closed);
    const complete = head.complete && tail.complete && this.lacking[first] === this.lacking[last];
    return { value: Math.min(head.value, this.values.least(first, last), tail.value), complete };
  }
}

const followedOfRuns = new WeakMap<Signals, Map<string, Followed>>();
/** Texts by the very expression: a criterion is judged on many runs. */
const keys = new WeakMap<Node, string>();

function followed(node: Node, signals: Signals): Followed {
  const key = keys.get(node) ?? encode(node);
  keys.set(node, key);
  const run = followedOfRuns.get(signals) ?? new Map<string, Followed>();
  const found = run.get(key) ?? new Followed(scan(node, false, signals), signals.trace);
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
