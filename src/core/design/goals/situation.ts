import { negated, type Signals, type Stretch, scan, stretches } from '@/core/criteria';
import { type Node, negative, type SlotNumber, slotsRead } from '@/core/plan';

/** Something that is so or not at an instant of a run. `isFree`: up to free inputs and messages alone, so that a case can bring it about at any time. */
export type Literal = {
  readonly text: string;
  readonly isFree?: boolean;
} /** A truth has a value; where it is that a state is active, its full name. */ & (
  | { readonly k: 'truth'; readonly node: Node; readonly value: boolean; readonly state?: string }
  /** A distance is not below 0. `scale` is what counts as far, in its unit. */
  | { readonly k: 'bound'; readonly distance: Node; readonly strict: boolean; readonly scale: number; readonly unit: string }
  /** A state has been active for so many seconds; `endedBy` are signals that may end that. */
  | { readonly k: 'lasted'; readonly of: Node; readonly state: string; readonly seconds: number; readonly endedBy: readonly SlotNumber[] }
  /** One of some messages is sent; each has a mark in the trace. */
  | { readonly k: 'sent'; readonly messages: readonly { readonly name: string; readonly mark: number }[] }
);

/** What has to be so at one instant, all of it. */
export type Situation = readonly Literal[];

/** Signals that tell whether something is so. */
export function slotsOf(literal: Literal): SlotNumber[] {
  return literal.k === 'sent' ? [] : [...slotsRead(nodeOf(literal))];
}

function nodeOf(literal: Exclude<Literal, { k: 'sent' }>): Node {
  return literal.k === 'truth' ? literal.node : literal.k === 'bound' ? literal.distance : literal.of;
}

/** Something that was not so at an instant. */
export interface Missing {
  readonly literal: Literal;
  /** Seconds from the instant to the nearest one at which it was; below 0 before it. Nothing where it never was. */
  readonly apart?: number;
  /** What it was short of: in the unit of a bound that never held, or in seconds where a condition did not last. */
  readonly short?: number;
}

/** How near a run came to a situation. */
export interface Nearness {
  /** 0 where it came about, or would if a case moved what is free at the right instant; each other thing that is missing adds less than 1 where it was so at another time, and 1 to 2 where it never was. */
  readonly distance: number;
  /** The instants at which it was nearest (s), with how long all that was so then stays so. */
  readonly places: readonly { readonly at: number; readonly until: number }[];
  /** What was missing at the first of them. */
  readonly missing: readonly Missing[];
}

/** Parts of the time of a run, and of a scale, at which something counts as half missing. */
const halfTime = 0.02;
const halfScale = 0.1;
/** Instants of one literal that are looked at. */
const mostInstants = 400;
/** Places at which a run was equally near that are kept. */
const mostPlaces = 50;
/** Where one thing ends as another begins, it may be what brings the other about: they count as this part of the time of a run apart. */
const leastApart = 0.002;

/** Follows what is so in one run, and says how near it came to situations. */
export class Watcher {
  private readonly courses = new Map<Literal, Course>();
  private readonly known: ReadonlySet<SlotNumber>;

  /** @param constants slots that do not change in a run: parameters */
  constructor(
    private readonly signals: Signals,
    constants: Iterable<SlotNumber>,
  ) {
    this.known = new Set([...constants, ...signals.trace.columns.map((column) => column.slot)]);
  }

  /** How near it came to a situation. */
  nearness(situation: Situation): Nearness {
    const courses = situation.map((literal) => this.course(literal));
    const bound = courses.filter(({ literal }) => !literal.isFree);
    const { from, until } = this.signals.trace;
    let [distance, times] = [Number.POSITIVE_INFINITY, [from]];
    // What is apart grows straight on either side of a stretch, so that the least sum lies at the end of one.
    for (const t of new Set([from, ...bound.flatMap((one) => one.instants)])) {
      let sum = 0;
      for (const one of bound) sum += one.gapAt(t);
      if (sum < distance) [distance, times] = [sum, [t]];
      else if (sum === distance && times.length < mostPlaces) times.push(t);
    }
    const all = times.map((at) => ({
      at,
      until: Math.min(until, ...bound.flatMap((one) => (one.gapAt(at) === 0 ? [one.endFrom(at)] : []))),
    }));
    // The end of a stretch says no more than its beginning, unless it is all there is.
    const lasting = all.filter((place) => place.until > place.at);
    const places = lasting.length > 0 ? lasting : all;
    const first = places[0]?.at ?? from;
    return { distance, places, missing: courses.flatMap((one) => (one.gapAt(first) > 0 ? [one.missingAt(first)] : [])) };
  }

  private course(literal: Literal): Course {
    const known = this.courses.get(literal) ?? this.courseOf(literal);
    this.courses.set(literal, known);
    return known;
  }

  private courseOf(literal: Literal): Course {
    const { signals } = this;
    const { trace } = signals;
    const seconds = trace.until - trace.from;
    if (literal.k === 'sent') {
      const marks = new Set(literal.messages.map(({ mark }) => mark));
      const times = [...trace.marks.time].filter((_, index) => marks.has(trace.marks.mark[index] as number));
      return new Course(
        literal,
        times.map((t) => ({ from: t, until: t, fromIncluded: true, untilIncluded: true })),
        seconds,
      );
    }
    const node = nodeOf(literal);
    // What no column tells is taken for missing.
    if ([...slotsRead(node)].some((slot) => !this.known.has(slot))) return new Course(literal, [], seconds);
    const line = scan(node, literal.k !== 'bound', signals).timeline(literal.k === 'bound' && literal.strict);
    const spans = stretches(literal.k === 'truth' && !literal.value ? negated(line) : line);
    if (literal.k === 'lasted') return new LastingCourse(literal, spans, seconds);
    const short = literal.k === 'bound' && spans.length === 0 ? -mostOf(literal.distance, signals) : undefined;
    return new Course(literal, spans, seconds, short);
  }
}

/** The greatest value of a quantity in a run. */
function mostOf(distance: Node, signals: Signals): number {
  return -scan(negative(distance), false, signals).least(signals.trace.from, signals.trace.until, true).value;
}

/** When one thing was so in a run. */
class Course {
  readonly instants: readonly number[];

  /**
   * @param seconds time of the run
   * @param short what a bound that never held was short of
   */
  constructor(
    readonly literal: Literal,
    protected readonly spans: readonly Stretch[],
    protected readonly seconds: number,
    private readonly short?: number,
  ) {
    const all = this.instantsOf();
    const step = Math.ceil(all.length / mostInstants);
    this.instants = all.filter((_, index) => index % step === 0);
  }

  protected instantsOf(): number[] {
    return this.spans.flatMap(({ from, until }) => [from, until]);
  }

  /** 0 where it is so, less than 1 where it is so at another time, 1 to 2 where it never is. */
  gapAt(t: number): number {
    const apart = this.apart(t);
    const { literal, short } = this;
    if (apart === 0) return 0;
    if (apart !== undefined) return share(Math.abs(apart), halfTime * this.seconds);
    return 1 + (literal.k === 'bound' && short !== undefined && !Number.isNaN(short) ? share(Math.abs(short), halfScale * literal.scale) : 0.5);
  }

  /** How long it stays so from an instant at which it is. */
  endFrom(t: number): number {
    return this.spans[this.lastFrom(t)]?.until ?? t;
  }

  missingAt(t: number): Missing {
    const apart = this.apart(t);
    return { literal: this.literal, ...(apart === undefined ? {} : { apart }), ...(this.short === undefined ? {} : { short: this.short }) };
  }

  /** Seconds to the nearest instant at which it is so. */
  private apart(t: number): number | undefined {
    const index = this.lastFrom(t);
    const [before, after] = [this.spans[index], this.spans[index + 1]];
    if (!before && !after) return undefined;
    if (before && isWithin(before, t)) return 0;
    const late = before ? Math.max(leastApart * this.seconds, t - before.until) : Number.POSITIVE_INFINITY;
    const early = after ? Math.max(leastApart * this.seconds, after.from - t) : Number.POSITIVE_INFINITY;
    return late <= early ? -late : early;
  }

  /** Index of the last stretch that begins at or before `t`, or −1. */
  protected lastFrom(t: number): number {
    let [low, high] = [0, this.spans.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.spans[middle] as Stretch).from <= t) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }
}

/** When a condition had held for so long. */
class LastingCourse extends Course {
  constructor(
    override readonly literal: Literal & { readonly k: 'lasted' },
    spans: readonly Stretch[],
    seconds: number,
  ) {
    super(literal, spans, seconds);
  }

  protected override instantsOf(): number[] {
    return this.spans.map(({ until }) => until);
  }

  override gapAt(t: number): number {
    if (this.spans.length === 0) return 1.5;
    return Math.max(0, this.shortAt(t) / this.literal.seconds);
  }

  override missingAt(t: number): Missing {
    return { literal: this.literal, ...(this.spans.length > 0 ? { short: this.shortAt(t) } : {}) };
  }

  private shortAt(t: number): number {
    const span = this.spans[this.lastFrom(t)];
    const lasted = span && t <= span.until ? t - span.from : 0;
    return this.literal.seconds - lasted;
  }
}

function isWithin({ from, until, fromIncluded, untilIncluded }: Stretch, t: number): boolean {
  return (t > from || (t === from && fromIncluded)) && (t < until || (t === until && untilIncluded));
}

/** From 0 towards 1, and ½ at half. */
function share(of: number, half: number): number {
  return of / (of + half);
}
