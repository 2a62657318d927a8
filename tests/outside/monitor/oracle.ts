/**
 * A naive oracle for criteria, written from docs/language.md ("Exact meaning of criteria") alone, sharing no code with the monitor.
 * Time is cut into a grid so fine that everything that can happen, happens on a grid point: between two points all is constant or straight.
 * Space robustness: Fainekos & Pappas 2009. Time robustness: Donzé & Maler 2010.
 */

export interface Row {
  readonly t: number;
  readonly x: number;
  readonly y: number;
  readonly p: boolean;
  readonly q: boolean;
  readonly k: number;
}

export type Quantity = 'x' | 'y' | 'k' | 'x - y' | 'ABS(x - y)' | 'MAX(x, y)';
export type Cond =
  | { readonly c: 'bool'; readonly name: 'p' | 'q' }
  | { readonly c: 'bound'; readonly of: Quantity; readonly op: '<' | '<=' | '>' | '>='; readonly limit: number }
  | { readonly c: 'not'; readonly a: Cond }
  | { readonly c: 'and' | 'or'; readonly a: Cond; readonly b: Cond };
export type Ev =
  | { readonly e: 'rises' | 'falls'; readonly of: Cond }
  | { readonly e: 'crosses'; readonly of: Quantity; readonly limit: number; readonly upward: boolean };
/** The first instant of the trace. */
export interface Start {
  readonly e: 'start';
}
export type Sent =
  | { readonly s: 'always'; readonly holds: Cond }
  | { readonly s: 'never'; readonly holds: Cond }
  | { readonly s: 'while'; readonly during: Cond; readonly holds: Cond; readonly lasting?: number }
  | {
      readonly s: 'when';
      readonly event: Ev | Lasts | Start;
      readonly during?: Cond;
      readonly timing: 'at once' | 'within' | 'for' | 'after' | 'between' | 'within for' | 'until';
      readonly d: number;
      /** Earlier end of `between`, length of `within … for`. */
      readonly other?: number;
      /** Of `until`; without `bounded` it may come whenever it likes. */
      readonly release?: Cond;
      readonly bounded?: boolean;
      readonly holds: Cond;
    }
  | { readonly s: 'sequence'; readonly events: readonly Ev[]; readonly d?: number };
export interface Lasts {
  readonly e: 'lasts';
  readonly of: Cond;
  readonly d: number;
}

export interface Owed {
  readonly from: number;
  readonly until: number;
  readonly outcome: 'met' | 'broken' | 'open';
  readonly at: number;
  /** Absent when infinite or when a value was missing. */
  readonly margin?: number;
  readonly atLeast?: boolean;
}

const grid = 1 / 16;
type Side = 'before' | 'at' | 'after';
type Truth = 0 | 1 | 2;

function boundsOf(cond: Cond): Cond[] {
  if (cond.c === 'bound') return [cond];
  if (cond.c === 'bool') return [];
  return cond.c === 'not' ? boundsOf(cond.a) : [...boundsOf(cond.a), ...boundsOf(cond.b)];
}

export class Oracle {
  private readonly start: number;
  private readonly end: number;
  private readonly n: number;

  constructor(private readonly rows: readonly Row[]) {
    this.start = rows[0]!.t;
    this.end = rows.at(-1)!.t;
    this.n = Math.round((this.end - this.start) / grid);
  }

  private t(i: number): number {
    return this.start + i * grid;
  }

  /** A straight signal between rows; at a row of several equal times the last counts, its left limit is the first. */
  private straight(name: 'x' | 'y', t: number, side: Side): number {
    const here = this.rows.filter((row) => row.t === t);
    if (here.length > 0) {
      if (side === 'before') return here[0]![name];
      return here.at(-1)![name];
    }
    const a = this.rows.filter((row) => row.t < t).at(-1)!;
    const b = this.rows.find((row) => row.t > t)!;
    return a[name] + ((b[name] - a[name]) * (t - a.t)) / (b.t - a.t);
  }

  private held<T>(read: (row: Row) => T, t: number, side: Side): T {
    const past = this.rows.filter((row) => (side === 'before' ? row.t < t : row.t <= t));
    return read(past.length > 0 ? past.at(-1)! : this.rows[0]!);
  }

  private quantity(of: Quantity, t: number, side: Side): number {
    const x = this.straight('x', t, side);
    const y = this.straight('y', t, side);
    switch (of) {
      case 'x':
        return x;
      case 'y':
        return y;
      case 'k':
        return this.held((row) => row.k, t, side);
      case 'x - y':
        return x - y;
      case 'ABS(x - y)':
        return Math.abs(x - y);
      case 'MAX(x, y)':
        return Number.isNaN(x) || Number.isNaN(y) ? Number.NaN : Math.max(x, y);
    }
  }

  private truthAtTime(cond: Cond, t: number): Truth {
    switch (cond.c) {
      case 'bool':
        return this.held((row) => row[cond.name], t, 'at') ? 1 : 0;
      case 'bound': {
        const v = this.quantity(cond.of, t, 'at');
        if (Number.isNaN(v)) return 2;
        return { '<': v < cond.limit, '<=': v <= cond.limit, '>': v > cond.limit, '>=': v >= cond.limit }[cond.op] ? 1 : 0;
      }
      case 'not': {
        const a = this.truthAtTime(cond.a, t);
        return a === 2 ? 2 : a === 1 ? 0 : 1;
      }
      case 'and':
      case 'or': {
        const a = this.truthAtTime(cond.a, t);
        const b = this.truthAtTime(cond.b, t);
        const decides = cond.c === 'and' ? 0 : 1;
        if (a === decides || b === decides) return decides;
        return a === 2 || b === 2 ? 2 : cond.c === 'and' ? 1 : 0;
      }
    }
  }

  private readonly known = new Map<Cond, { points: Truth[]; cells: Truth[] }>();
  private truths(cond: Cond): { points: Truth[]; cells: Truth[] } {
    let truths = this.known.get(cond);
    if (!truths) {
      const at =
        (shift: number) =>
        (_: unknown, i: number): Truth =>
          this.truthAtTime(cond, this.t(i) + shift);
      truths = { points: Array.from({ length: this.n + 1 }, at(0)), cells: Array.from({ length: this.n }, at(grid / 2)) };
      this.known.set(cond, truths);
    }
    return truths;
  }

  private point(cond: Cond, i: number): Truth {
    return this.truths(cond).points[i]!;
  }
  /** Truth on the open cell between grid points i and i + 1. */
  private cell(cond: Cond, i: number): Truth {
    return this.truths(cond).cells[i]!;
  }

  private space(cond: Cond, t: number, side: Side): number {
    switch (cond.c) {
      case 'bool':
        return this.held((row) => row[cond.name], t, side) ? Infinity : -Infinity;
      case 'bound': {
        const v = this.quantity(cond.of, t, side);
        return cond.op === '<' || cond.op === '<=' ? cond.limit - v : v - cond.limit;
      }
      case 'not':
        return -this.space(cond.a, t, side);
      case 'and':
        return Math.min(this.space(cond.a, t, side), this.space(cond.b, t, side));
      case 'or':
        return Math.max(this.space(cond.a, t, side), this.space(cond.b, t, side));
    }
  }

  /** Least space robustness over [i, j) or [i, j]. */
  private leastSpace(cond: Cond, i: number, j: number, closed: boolean): number {
    let least = Infinity;
    for (let g = i; g <= j; g += 1) {
      if (g < j || closed) least = Math.min(least, this.space(cond, this.t(g), 'at'));
      if (g < j) least = Math.min(least, this.space(cond, this.t(g), 'after'), this.space(cond, this.t(g + 1), 'before'), ...this.meetings(cond, g));
    }
    return least;
  }

  /** Inside a cell every bound is straight; where two of them (or one and another's negative) meet, MIN and MAX may have their least. */
  private meetings(cond: Cond, g: number): number[] {
    const bounds = boundsOf(cond);
    const found: number[] = [];
    for (const a of bounds) {
      for (const b of bounds) {
        for (const sign of [1, -1]) {
          const gap = (t: number, side: Side): number => this.space(a, t, side) - sign * this.space(b, t, side);
          const [start, end] = [gap(this.t(g), 'after'), gap(this.t(g + 1), 'before')];
          if (start * end < 0) found.push(this.space(cond, this.t(g) + (grid * start) / (start - end), 'at'));
        }
      }
    }
    return found;
  }

  /** Signed distance in time to the nearest instant of other truth, seen from a point or from just beside it. */
  private atomTime(cond: Cond, i: number, side: Side): number {
    const truth =
      side === 'at'
        ? this.point(cond, i)
        : side === 'after'
          ? i < this.n
            ? this.cell(cond, i)
            : this.point(cond, i)
          : i > 0
            ? this.cell(cond, i - 1)
            : this.point(cond, i);
    let least = Infinity;
    for (let g = 0; g <= this.n; g += 1) {
      if (this.point(cond, g) !== truth) least = Math.min(least, Math.abs(g - i) * grid);
      if (g < this.n && this.cell(cond, g) !== truth) least = Math.min(least, g >= i ? (g - i) * grid : (i - g - 1) * grid);
    }
    return truth === 1 ? least : -least;
  }

  private time(cond: Cond, i: number, side: Side): number {
    switch (cond.c) {
      case 'bool':
      case 'bound':
        return this.atomTime(cond, i, side);
      case 'not':
        return -this.time(cond.a, i, side);
      case 'and':
        return Math.min(this.time(cond.a, i, side), this.time(cond.b, i, side));
      case 'or':
        return Math.max(this.time(cond.a, i, side), this.time(cond.b, i, side));
    }
  }

  private leastTime(cond: Cond, i: number, j: number): number {
    let least = Math.min(this.time(cond, i, 'at'), this.time(cond, j, 'at'));
    for (let g = i; g <= j; g += 1) {
      if (g > i && g < j) least = Math.min(least, this.time(cond, g, 'at'));
      if (g < j) least = Math.min(least, this.time(cond, g, 'after'), this.time(cond, g + 1, 'before'));
    }
    return least;
  }

  private finite(margin: number): { margin?: number } {
    return Number.isFinite(margin) ? { margin } : {};
  }

  owed(sentence: Sent): Owed[] {
    switch (sentence.s) {
      case 'always':
      case 'never': {
        const holds: Cond = sentence.s === 'always' ? sentence.holds : { c: 'not', a: sentence.holds };
        const hidden = holds.c === 'or' ? (holds.a.c === 'not' ? holds.a.a : holds.b.c === 'not' ? holds.b.a : undefined) : undefined;
        if (hidden && this.spans(hidden).length === 0) return [];
        return [this.throughout(holds, { i: 0, j: this.n, first: true, last: true })];
      }
      case 'while':
        return this.spans(sentence.during).flatMap((span) => {
          const i = span.i + Math.round((sentence.lasting ?? 0) / grid);
          const isThere = sentence.lasting === undefined || i < span.j || (i === span.j && span.first && span.last);
          return isThere ? [this.throughout(sentence.holds, { ...span, i })] : [];
        });
      case 'when':
        return this.triggers(sentence.event)
          .filter((i) => !sentence.during || (i === 0 ? this.point(sentence.during, 0) : this.cell(sentence.during, i - 1)) === 1)
          .map((i) => this.answer(sentence, i));
      case 'sequence':
        return this.ordered(
          sentence.events.map((event) => this.events(event)),
          sentence.d,
        );
    }
  }

  private answer(sentence: Sent & { s: 'when' }, i: number): Owed {
    const { holds, d, other = 0, release, bounded } = sentence;
    switch (sentence.timing) {
      case 'at once':
        return this.atOnce(holds, i);
      case 'within':
        return this.within(holds, i, d);
      case 'for':
        return this.lasting(holds, i, d);
      case 'after':
        return this.onwards(holds, i, d);
      case 'between':
        return this.window(holds, i, other, d);
      case 'within for':
        return this.attempts(holds, i, d, other);
      case 'until':
        return this.until(holds, release as Cond, i, bounded ? d : undefined);
    }
  }

  private triggers(event: Ev | Lasts | Start): number[] {
    if (event.e === 'start') return [0];
    if (event.e !== 'lasts') return this.events(event);
    const k = Math.round(event.d / grid);
    return this.spans(event.of).flatMap(({ i, j }) => (i + k <= j ? [i + k] : []));
  }

  private onwards(holds: Cond, i: number, d: number): Owed {
    const start = i + Math.round(d / grid);
    if (start > this.n) return { from: this.t(i), until: this.t(i) + d, outcome: 'open', at: this.end };
    return { ...this.throughout(holds, { i: start, j: this.n, first: true, last: true }), from: this.t(i) };
  }

  private window(holds: Cond, i: number, d1: number, d2: number): Owed {
    const [from, until, opens] = [this.t(i), this.t(i) + d2, i + Math.round(d1 / grid)];
    const seen = Math.min(opens, this.n);
    const early = this.firstOf(holds, 1, i, seen, true, this.n < opens);
    const missing = this.firstOf(holds, 2, i, early ?? seen, true, early !== undefined || this.n < opens);
    // At the very instant at which it came early nothing can be missing, for it has a value there.
    if (missing !== undefined && (early === undefined || missing < early)) return { from, until, outcome: 'open', at: this.t(missing) };
    if (early !== undefined) return { from, until, outcome: 'broken', at: this.t(early), margin: this.t(early) - from - d1 };
    if (opens > this.n) return { from, until, outcome: 'open', at: this.end };
    const rest = this.within(holds, opens, d2 - d1);
    const margin = rest.outcome === 'met' ? Math.min(rest.margin as number, rest.at - this.t(opens)) : rest.margin;
    return { ...rest, from, ...(margin === undefined ? {} : { margin }) };
  }

  /** Every beginning is tried: each point, and right after each point. */
  private attempts(holds: Cond, i: number, d1: number, d2: number): Owed {
    const [from, until] = [this.t(i), this.t(i) + d1 + d2];
    const [last, k] = [i + Math.round(d1 / grid), Math.round(d2 / grid)];
    /** Where P first fails after a beginning: a grid point (or the cell after it); undefined when it holds to the end of the trace. */
    const fails = (g: number, after: boolean): number | undefined => this.not(holds, g, after);
    const tries: { g: number; after: boolean }[] = [];
    for (let g = i; g <= this.n; g += 1) tries.push({ g, after: false }, ...(g < this.n ? [{ g, after: true }] : []));
    const fits = ({ g, after }: { g: number; after: boolean }): boolean => {
      const bad = fails(g, after);
      if (bad === undefined) return after ? g + k < this.n : g + k <= this.n;
      return after ? bad > g + k : bad >= g + k && bad > g;
    };
    const inTime = tries.filter(({ g, after }) => g < last || (g === last && !after));
    const good = tries.find(fits);
    const met = good !== undefined && inTime.includes(good);
    const begun = inTime.filter(({ g, after }) => (after ? this.cell(holds, g) : this.point(holds, g)) === 1);
    const ends = begun.map(({ g, after }) => fails(g, after) ?? this.n);
    const decided = met ? good.g + k : Math.min(this.n, Math.max(last, ...ends));
    const missing = this.firstOf(holds, 2, i, decided, true, !met);
    if (missing !== undefined) return { from, until, outcome: 'open', at: this.t(missing) };
    if (met) return { from, until, outcome: 'met', at: this.t(decided), margin: this.t(last) - this.t(good.g) };
    if (this.n < last || begun.some(({ g, after }) => fails(g, after) === undefined)) return { from, until, outcome: 'open', at: this.end };
    const lacks = begun.map(({ g }, index) => (ends[index] as number) - g - k);
    if (lacks.length > 0) return { from, until, outcome: 'broken', at: this.t(decided), margin: Math.max(...lacks) * grid };
    const late = good === undefined ? { margin: this.t(last) - this.end, atLeast: true } : { margin: this.t(last) - this.t(good.g) };
    return { from, until, outcome: 'broken', at: this.t(decided), ...late };
  }

  /** First grid point from which a condition is not true, seen from a point or from right after it. */
  private not(holds: Cond, g: number, after: boolean): number | undefined {
    for (let h = g; h <= this.n; h += 1) {
      if ((h > g || !after) && this.point(holds, h) !== 1) return h;
      if (h < this.n && this.cell(holds, h) !== 1) return h;
    }
    return undefined;
  }

  private until(holds: Cond, release: Cond, i: number, d: number | undefined): Owed {
    const from = this.t(i);
    const last = d === undefined ? Infinity : i + Math.round(d / grid);
    const q = this.firstOf(release, 1, i, this.n, true, true);
    const onPoint = q !== undefined && this.point(release, q) === 1;
    const came = q !== undefined && (q < last || (q === last && onPoint));
    const j = came ? q : Math.min(last, this.n);
    const until = d === undefined ? this.t(q ?? this.n) : from + d;
    const closed = !came || !onPoint;
    const bad = this.firstOf(holds, 0, i, j, true, closed);
    const seen = bad ?? j;
    // Where it breaks, what came before that instant and that instant itself are looked at.
    const missing = [holds, release].flatMap((cond) => this.firstOf(cond, 2, i, seen, true, closed) ?? []);
    if (missing.length > 0) return { from, until, outcome: 'open', at: this.t(Math.min(...missing)) };
    const space = this.leastSpace(holds, i, j, closed);
    const own = this.finite(Number.isFinite(space) ? space : this.leastTime(holds, i, j));
    if (bad !== undefined) return { from, until, outcome: 'broken', at: this.t(bad), ...own };
    const left = d === undefined || q === undefined ? {} : { margin: until - this.t(q) };
    if (came) return { from, until, outcome: 'met', at: this.t(q), ...(q === i && onPoint ? left : { ...left, ...own }) };
    if (d === undefined) return { from, until, outcome: 'met', at: this.end, ...own };
    if (this.n < last) return { from, until, outcome: 'open', at: this.end };
    return { from, until, outcome: 'broken', at: until, ...(q === undefined ? { margin: until - this.end, atLeast: true } : left) };
  }

  /** Goes through time once for each first event, as one would with a finger on the list. */
  private ordered(events: readonly (readonly number[])[], d: number | undefined): Owed[] {
    return events[0]!.map((i) => {
      const last = d === undefined ? Infinity : i + Math.round(d / grid);
      const common = { from: this.t(i), until: d === undefined ? this.end : this.t(i) + d };
      let awaited = 1;
      let done: number | undefined;
      for (let g = i + 1; g <= this.n && done === undefined; g += 1) {
        if (events[awaited]!.includes(g)) {
          awaited += 1;
          if (awaited === events.length) done = g;
        } else if (g <= last && events.slice(awaited + 1).some((later) => later.includes(g))) return { ...common, outcome: 'broken', at: this.t(g) };
      }
      const margin = d === undefined || done === undefined ? {} : { margin: common.until - this.t(done) };
      if (done !== undefined && done <= last) return { ...common, outcome: 'met', at: this.t(done), ...margin };
      if (this.n < last) return { ...common, outcome: 'open', at: this.end };
      return {
        ...common,
        outcome: 'broken',
        at: common.until,
        ...(done === undefined ? { margin: common.until - this.end, atLeast: true } : margin),
      };
    });
  }

  private events(event: Ev): number[] {
    const of: Cond =
      event.e === 'crosses'
        ? { c: 'bound', of: event.of, op: event.upward ? '>=' : '<=', limit: event.limit }
        : event.e === 'rises'
          ? event.of
          : { c: 'not', a: event.of };
    const found: number[] = [];
    for (let i = 0; i <= this.n; i += 1) {
      const before = i > 0 ? this.cell(of, i - 1) : 2;
      const after = i < this.n ? this.cell(of, i) : this.point(of, i);
      if ((before === 0 && this.point(of, i) === 1) || (this.point(of, i) === 0 && after === 1)) found.push(i);
    }
    return found;
  }

  private spans(cond: Cond): { i: number; j: number; first: boolean; last: boolean }[] {
    const found: { i: number; j: number; first: boolean; last: boolean }[] = [];
    let open: { i: number; first: boolean } | undefined;
    for (let i = 0; i <= this.n; i += 1) {
      if (this.point(cond, i) === 1) open ??= { i, first: true };
      else if (open) {
        found.push({ ...open, j: i, last: false });
        open = undefined;
      }
      if (i === this.n) break;
      if (this.cell(cond, i) === 1) open ??= { i, first: false };
      else if (open) {
        found.push({ ...open, j: i, last: true });
        open = undefined;
      }
    }
    if (open) found.push({ ...open, j: this.n, last: true });
    return found;
  }

  private throughout(holds: Cond, { i, j, first, last }: { i: number; j: number; first: boolean; last: boolean }): Owed {
    const bad = this.firstOf(holds, 0, i, j, first, last);
    const missing = this.firstOf(holds, 2, i, j, first, last);
    const [from, until] = [this.t(i), this.t(j)];
    const space = this.leastSpace(holds, i, j, last);
    const margin = this.finite(Number.isFinite(space) ? space : this.leastTime(holds, i, j));
    if (bad !== undefined) return { from, until, outcome: 'broken', at: this.t(bad), ...(missing === undefined ? margin : {}) };
    if (missing !== undefined) return { from, until, outcome: 'open', at: this.t(missing) };
    return { from, until, outcome: 'met', at: until, ...margin };
  }

  private firstOf(cond: Cond, truth: Truth, i: number, j: number, first: boolean, last: boolean): number | undefined {
    for (let g = i; g <= j; g += 1) {
      if ((g > i || first) && (g < j || last) && this.point(cond, g) === truth) return g;
      if (g < j && this.cell(cond, g) === truth) return g;
    }
    return undefined;
  }

  private atOnce(holds: Cond, i: number): Owed {
    const truth = this.point(holds, i);
    const t = this.t(i);
    if (truth === 2) return { from: t, until: t, outcome: 'open', at: t };
    const space = this.space(holds, t, 'at');
    return {
      from: t,
      until: t,
      outcome: truth === 1 ? 'met' : 'broken',
      at: t,
      ...this.finite(Number.isFinite(space) ? space : this.time(holds, i, 'at')),
    };
  }

  private within(holds: Cond, i: number, d: number): Owed {
    const from = this.t(i);
    const until = from + d;
    const j = i + Math.round(d / grid);
    let came: number | undefined;
    for (let g = i; g <= this.n && came === undefined; g += 1) {
      if (this.point(holds, g) === 1 || (g < this.n && this.cell(holds, g) === 1)) came = g;
    }
    const seen = Math.min(came ?? j, j, this.n);
    const missing = this.firstOf(holds, 2, i, seen, true, true);
    if (missing !== undefined) return { from, until, outcome: 'open', at: this.t(missing) };
    if (came !== undefined && (came < j || (came === j && this.point(holds, j) === 1)))
      return { from, until, outcome: 'met', at: this.t(came), margin: until - this.t(came) };
    if (this.n < j) return { from, until, outcome: 'open', at: this.end };
    return came === undefined
      ? { from, until, outcome: 'broken', at: until, margin: until - this.end, atLeast: true }
      : { from, until, outcome: 'broken', at: until, margin: until - this.t(came) };
  }

  private lasting(holds: Cond, i: number, d: number): Owed {
    const from = this.t(i);
    const until = from + d;
    const j = Math.min(i + Math.round(d / grid), this.n);
    const cut = i + Math.round(d / grid) > this.n;
    const bad = this.firstOf(holds, 0, i, j, true, cut);
    const missing = this.firstOf(holds, 2, i, j, true, cut);
    if (bad === undefined && missing !== undefined) return { from, until, outcome: 'open', at: this.t(missing) };
    const space = this.leastSpace(holds, i, j, cut);
    const ended = this.firstOf(holds, 0, i, this.n, true, true);
    const margin = Number.isFinite(space)
      ? { margin: space }
      : { margin: (ended === undefined ? this.end : this.t(ended)) - from - d, ...(ended === undefined ? { atLeast: true } : {}) };
    const shown = missing === undefined ? margin : {};
    if (bad !== undefined) return { from, until, outcome: 'broken', at: this.t(bad), ...shown };
    if (cut) return { from, until, outcome: 'open', at: this.end, ...shown };
    return { from, until, outcome: 'met', at: until, ...shown };
  }
}
