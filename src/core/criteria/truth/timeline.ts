/** Truth of a condition; 2 means undefined (a value is missing). */
export type Truth = 0 | 1 | 2;

/**
 * Truth over dense time as a list of changes: `point[i]` holds at `time[i]`, `span[i]` on the open interval that follows.
 * The first entry stands at the start of the trace; the last span reaches to its end.
 */
export interface Timeline {
  readonly time: number[];
  readonly point: Truth[];
  readonly span: Truth[];
  readonly until: number;
}

/** Appends what holds at `t` and right after it; entries that change nothing are left out. */
export function append(line: Timeline, t: number, point: Truth, span: Truth): void {
  const last = line.time.length - 1;
  if (last >= 0 && line.time[last] === t) {
    line.point[last] = point;
    line.span[last] = span;
  } else if (last < 0 || line.span[last] !== point || point !== span) {
    line.time.push(t);
    line.point.push(point);
    line.span.push(span);
  }
}

/** Index of the last entry at or before `t`. */
export function entryAt(line: Timeline, t: number): number {
  let low = 0;
  let high = line.time.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((line.time[middle] as number) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

export function truthAt(line: Timeline, t: number): Truth {
  const entry = entryAt(line, t);
  return (line.time[entry] === t ? line.point[entry] : line.span[entry]) ?? 2;
}

/** Truth just before `t`; at the very start, the truth there. */
export function truthBefore(line: Timeline, t: number): Truth {
  const entry = entryAt(line, t);
  if (line.time[entry] !== t) return line.span[entry] ?? 2;
  return (entry === 0 ? line.point[0] : line.span[entry - 1]) ?? 2;
}

/** Truth right after `t`; at the very end, the truth there. */
export function truthAfter(line: Timeline, t: number): Truth {
  const entry = entryAt(line, t);
  return (t === line.until ? truthAt(line, t) : line.span[entry]) ?? 2;
}

export function negated(line: Timeline): Timeline {
  const flip = (truth: Truth): Truth => (truth === 2 ? 2 : truth === 1 ? 0 : 1);
  return { time: line.time, point: line.point.map(flip), span: line.span.map(flip), until: line.until };
}

/** Kleene's three-valued AND and OR. */
function conjunction(a: Truth, b: Truth): Truth {
  if (a === 0 || b === 0) return 0;
  return a === 2 || b === 2 ? 2 : 1;
}
function disjunction(a: Truth, b: Truth): Truth {
  if (a === 1 || b === 1) return 1;
  return a === 2 || b === 2 ? 2 : 0;
}

/** Where it may be true: unknown counts as true. */
export function perhaps(line: Timeline): Timeline {
  const hoped = (truth: Truth): Truth => (truth === 2 ? 1 : truth);
  return { time: line.time, point: line.point.map(hoped), span: line.span.map(hoped), until: line.until };
}

export function combined(k: 'and' | 'or', a: Timeline, b: Timeline): Timeline {
  const join = k === 'and' ? conjunction : disjunction;
  const line: Timeline = { time: [], point: [], span: [], until: a.until };
  let i = 0;
  let j = 0;
  while (i < a.time.length || j < b.time.length) {
    const ta = a.time[i] ?? Number.POSITIVE_INFINITY;
    const tb = b.time[j] ?? Number.POSITIVE_INFINITY;
    const t = Math.min(ta, tb);
    const pa = (ta === t ? a.point[i] : a.span[i - 1]) ?? 2;
    const pb = (tb === t ? b.point[j] : b.span[j - 1]) ?? 2;
    if (ta === t) i += 1;
    if (tb === t) j += 1;
    append(line, t, join(pa, pb), join(a.span[i - 1] ?? 2, b.span[j - 1] ?? 2));
  }
  return line;
}

/** Instants at which truth begins after it was false: at the point itself, or right after it. */
export function rises(line: Timeline): number[] {
  return line.time.filter((_, i) => {
    const before = i === 0 ? 2 : line.span[i - 1];
    return (before === 0 && line.point[i] === 1) || (line.point[i] === 0 && line.span[i] === 1);
  });
}

/** A stretch on which a condition held; the ends belong to it or not. */
export interface Stretch {
  readonly from: number;
  readonly until: number;
  readonly fromIncluded: boolean;
  readonly untilIncluded: boolean;
}

/** The longest stretches on which the condition is true, in order. */
export function stretches(line: Timeline): Stretch[] {
  const found: Stretch[] = [];
  let open: { from: number; fromIncluded: boolean } | undefined;
  const close = (until: number, untilIncluded: boolean): void => {
    if (open) found.push({ ...open, until, untilIncluded });
    open = undefined;
  };
  line.time.forEach((t, i) => {
    if (line.point[i] === 1) open ??= { from: t, fromIncluded: true };
    else close(t, false);
    if (t === line.until) return;
    if (line.span[i] === 1) open ??= { from: t, fromIncluded: false };
    else close(t, true);
  });
  close(line.until, true);
  return found;
}

/** First instant in a stretch at which a line has the given truth; for one that begins right after an instant, that instant. */
export function firstIn(line: Timeline, truth: Truth, stretch: Stretch): number | undefined {
  const { from, until, fromIncluded, untilIncluded } = stretch;
  if (fromIncluded && (from < until || untilIncluded) && truthAt(line, from) === truth) return from;
  for (let i = entryAt(line, from); i < line.time.length; i += 1) {
    const t = line.time[i] as number;
    if (t > until || (t === until && !untilIncluded)) return undefined;
    if (t > from && line.point[i] === truth) return t;
    const end = line.time[i + 1] ?? line.until;
    const start = Math.max(t, from);
    if (line.span[i] === truth && start < Math.min(end, until)) return start;
  }
  return undefined;
}
