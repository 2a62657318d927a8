import { columnCourse, columnFor, openRecording } from '@/core/behaviour';
import type { Faults, Place } from '@/core/fault';
import { readTime } from '@/core/formula';
import type { Enumeration, InputChange, ValueType } from '@/core/plan';
import type { RawPiece, Scalar } from '@/core/shapes';
import type { Walk, WaveChange } from '@/core/simulate';
import { plural, timeWords } from '@/core/wording';

/** A free input, and how a value for it is read: limits and kind are told at a place. */
export interface Target {
  /** Index into `Plan.inputs`. */
  readonly index: number;
  readonly name: string;
  readonly unit: string;
  readonly type: ValueType;
  readonly enumeration?: Enumeration;
  readonly start: number;
  /** REAL or LREAL, which can be anything between two values. */
  readonly isReal: boolean;
  readonly read: (value: Scalar, at: Place) => number | undefined;
}

/** What a case does with its free inputs. */
export interface Course {
  readonly changes: readonly InputChange[];
  readonly waves: readonly WaveChange[];
  /** Their streams are numbered once all courses are known. */
  readonly walks: readonly Omit<Walk, 'stream'>[];
}

type Path = readonly (string | number)[];

/** Changes that one piece may make; a mistyped period would make millions. */
const mostChanges = 1_000_000;

/**
 * Reads one input's course: pieces in the order of time.
 * @param place of something in the course, by its path from there
 */
export function readCourse(
  pieces: readonly RawPiece[],
  input: Target,
  place: (...path: Path) => Place,
  recordings: ReadonlyMap<string, string>,
  faults: Faults,
): Course {
  return new CourseReader(input, place, recordings, faults).read(pieces);
}

class CourseReader {
  private readonly changes: InputChange[] = [];
  private readonly waves: WaveChange[] = [];
  private readonly walks: Omit<Walk, 'stream'>[] = [];
  /** The value at the end of the piece before. */
  private value: number;
  /** When that ends (ns). */
  private last = 0;

  constructor(
    private readonly input: Target,
    private readonly place: (...path: Path) => Place,
    private readonly recordings: ReadonlyMap<string, string>,
    private readonly faults: Faults,
  ) {
    this.value = input.start;
  }

  read(pieces: readonly RawPiece[]): Course {
    for (const [index, piece] of pieces.entries()) this.piece(piece, index);
    return { changes: this.changes, waves: this.waves, walks: this.walks };
  }

  private piece(piece: RawPiece, at: number): void {
    if ('hold' in piece) this.hold(piece, at);
    else if ('step' in piece) this.step(piece, at);
    else if ('ramp' in piece) this.ramp(piece, at);
    else if ('pulse' in piece) this.pulses(piece, at);
    else if ('sine' in piece) this.sine(piece, at);
    else if ('chirp' in piece) this.chirp(piece, at);
    else if ('walk' in piece) this.walk(piece, at);
    else if ('table' in piece) this.table(piece, at);
    else this.played(piece, at);
  }

  private hold({ hold }: Extract<RawPiece, { hold: unknown }>, at: number): void {
    if (at > 0)
      this.faults.add(
        'time',
        this.place(at),
        '"hold" gives the value at the start and comes first.',
        'Use { step: value, at: time } for a later change.',
      );
    this.value = this.input.read(hold, this.place(at, 'hold')) ?? this.value;
    this.change(0, this.value);
  }

  private step({ step, at: when }: Extract<RawPiece, { step: unknown }>, at: number): void {
    const atNs = this.begin(when, at, 'at') ?? 0;
    this.value = this.input.read(step, this.place(at, 'step')) ?? this.value;
    this.change(atNs, this.value);
  }

  private ramp(piece: Extract<RawPiece, { ramp: unknown }>, at: number): void {
    const span = this.span(piece, at, 'A ramp');
    const end = this.input.read(piece.ramp, this.place(at, 'ramp')) ?? this.value;
    if (!this.isReal(at, 'ramp') || !span) return;
    this.change(span.from, this.value, (end - this.value) / ((span.until - span.from) / 1e9));
    this.change(span.until, end);
    this.value = end;
  }

  /** A value for a while, as often as asked for; between and after, the one before. */
  private pulses(piece: Extract<RawPiece, { pulse: unknown }>, at: number): void {
    const begin = this.begin(piece.at, at, 'at');
    const width = this.time(piece.width, at, 'width', 1);
    const period = piece.period === undefined ? undefined : this.time(piece.period, at, 'period', 1);
    const value = this.input.read(piece.pulse, this.place(at, 'pulse'));
    const count = piece.count ?? 1;
    if (count > 1 && piece.period === undefined)
      this.faults.add('time', this.place(at), `${count} pulses need a period.`, 'Add period: 2 s, from the begin of one pulse to that of the next.');
    if (width !== undefined && period !== undefined && width >= period)
      this.faults.add(
        'time',
        this.place(at, 'width'),
        'A pulse must end before the next one begins.',
        'Give it a shorter width, or a longer period.',
      );
    if (begin === undefined || width === undefined || value === undefined || (count > 1 && period === undefined)) return;
    for (let pulse = 0; pulse < count; pulse += 1) {
      const from = begin + pulse * (period ?? 0);
      this.change(from, value);
      this.change(from + width, this.value);
    }
    this.last = begin + (count - 1) * (period ?? 0) + width;
  }

  private sine(piece: Extract<RawPiece, { sine: unknown }>, at: number): void {
    const span = this.span(piece, at, 'A sine');
    const period = this.time(piece.period, at, 'period', 1);
    const shift = piece.shift === undefined ? 0 : this.time(piece.shift, at, 'shift');
    if (span && period !== undefined && shift !== undefined && this.swings(piece.sine, at, 'sine'))
      this.wave(span, piece.sine, 1e9 / period, 0, shift / period);
  }

  /** The frequency goes evenly from that of the first period to that of the last. */
  private chirp(piece: Extract<RawPiece, { chirp: unknown }>, at: number): void {
    const span = this.span(piece, at, 'A chirp');
    const [first, last] = [0, 1].map((one) => readTime(piece.periods[one] as string | number, this.place(at, 'periods', one), this.faults, 1));
    if (!span || first === undefined || last === undefined || !this.swings(piece.chirp, at, 'chirp')) return;
    const [low, high] = [1e9 / first, 1e9 / last];
    this.wave(span, piece.chirp, low, (high - low) / ((span.until - span.from) / 1e9), 0);
  }

  private wave({ from, until }: Span, amplitude: number, frequency: number, rate: number, phase: number): void {
    const { index: input } = this.input;
    this.change(from, this.value);
    this.waves.push({ atNs: from, input, amplitude, frequency, rate, phase }, { atNs: until, input, amplitude: 0, frequency: 0, rate: 0, phase: 0 });
  }

  /** Both ends of a swing have to lie within the limits. */
  private swings(amplitude: number, at: number, key: string): boolean {
    const ends = [this.value + Math.abs(amplitude), this.value - Math.abs(amplitude)].map((end) => this.input.read(end, this.place(at, key)));
    return this.isReal(at, key) && ends.every((end) => end !== undefined);
  }

  private walk(piece: Extract<RawPiece, { walk: unknown }>, at: number): void {
    const span = this.span(piece, at, 'A walk');
    const every = this.time(piece.every, at, 'every', 1);
    const [low, high] = [0, 1].map((one) => this.input.read(piece.within[one] as number, this.place(at, 'within', one)));
    if (low !== undefined && high !== undefined && low >= high)
      this.faults.add(
        'outside-limits',
        this.place(at, 'within'),
        'The lower bound of a walk must be below its upper one.',
        'Write within: [low, high].',
      );
    if (!this.isReal(at, 'walk') || !span || every === undefined || low === undefined || high === undefined || low >= high) return;
    if (this.isTooMuch((span.until - span.from) / every, at, 'every')) return;
    const { index: input } = this.input;
    this.walks.push({ input, fromNs: span.from, untilNs: span.until, everyNs: every, start: this.value, step: piece.walk, low, high });
  }

  /** Points in order of time; a real number runs straight from one to the next unless it is to be held. */
  private table(piece: Extract<RawPiece, { table: unknown }>, at: number): void {
    const isStraight = (piece.between ?? (this.input.isReal ? 'straight' : 'held')) === 'straight';
    if (isStraight && !this.isReal(at, 'between')) return;
    const points = piece.table.flatMap(([when, written], row) => {
      const ns = this.begin(when, at, 'table', row, 0);
      const value = this.input.read(written, this.place(at, 'table', row, 1));
      return ns === undefined || value === undefined ? [] : [{ ns, value }];
    });
    for (const [row, { ns, value }] of points.entries()) {
      const next = points[row + 1];
      const slope = isStraight && next && next.ns > ns ? (next.value - value) / ((next.ns - ns) / 1e9) : 0;
      this.change(ns, value, slope);
      this.value = value;
    }
  }

  private played(piece: Extract<RawPiece, { recording: unknown }>, at: number): void {
    const from = piece.from === undefined ? this.last : this.begin(piece.from, at, 'from');
    const trace = openRecording(piece.recording, this.place(at, 'recording'), this.recordings, this.faults);
    const column = trace && columnFor(piece.column, this.input, trace, this.place(at, 'column'), this.faults);
    if (!trace || !column || from === undefined || this.isTooMuch(column.data.length, at, 'recording')) return;
    const course = columnCourse(column, trace, this.input.index, column.between === 'straight' && this.input.isReal);
    for (const { value } of extremes(course)) this.input.read(column.type === 'BOOL' ? value !== 0 : value, this.place(at, 'column'));
    for (const change of course) this.changes.push({ ...change, atNs: change.atNs + from });
    const end = course.at(-1);
    if (!end) return;
    this.value = end.value;
    this.last = from + end.atNs;
  }

  private change(atNs: number, value: number, slope = 0): void {
    this.changes.push({ atNs, input: this.input.index, value, slope });
  }

  /** When a piece begins; one that begins before the last one has ended is told. */
  private begin(written: string | number, ...path: Path): number | undefined {
    const ns = readTime(written, this.place(...path), this.faults);
    if (ns === undefined) return undefined;
    if (ns < this.last)
      this.faults.add(
        'time',
        this.place(path[0] as number),
        `This begins at ${timeWords(ns / 1e9)}, before the one above has ended (${timeWords(this.last / 1e9)}).`,
        'Put the stimuli of one input in order of time.',
      );
    this.last = Math.max(this.last, ns);
    return ns;
  }

  /** From when to when a piece lasts; of times that cannot be read nothing more is told. */
  private span(piece: { readonly from: string | number; readonly until: string | number }, at: number, what: string): Span | undefined {
    const from = this.begin(piece.from, at, 'from');
    const until = readTime(piece.until, this.place(at, 'until'), this.faults);
    if (from === undefined || until === undefined) return undefined;
    if (until > from) {
      this.last = Math.max(this.last, until);
      return { from, until };
    }
    this.faults.add('time', this.place(at, 'until'), `${what} must end after it begins.`, 'Give it a later end, or use a step.');
    return undefined;
  }

  private time(written: string | number, at: number, key: string, least = 0): number | undefined {
    return readTime(written, this.place(at, key), this.faults, least);
  }

  private isReal(at: number, what: string): boolean {
    if (!this.input.isReal)
      this.faults.add('type', this.place(at), `${this.input.name} is not REAL or LREAL; it has no ${what}.`, 'Use steps or pulses.');
    return this.input.isReal;
  }

  private isTooMuch(count: number, at: number, key: string): boolean {
    if (count <= mostChanges) return false;
    this.faults.add(
      'too-large',
      this.place(at, key),
      `This makes ${plural(Math.ceil(count), 'change')}; one input takes at most ${mostChanges}.`,
      'Change it less often.',
    );
    return true;
  }
}

interface Span {
  readonly from: number;
  readonly until: number;
}

/** The least and the greatest of a course. */
function extremes(course: readonly InputChange[]): InputChange[] {
  const [first] = course;
  if (!first) return [];
  const pick = (better: (a: number, b: number) => boolean): InputChange =>
    course.reduce((best, one) => (better(one.value, best.value) ? one : best), first);
  return [pick((a, b) => a < b), pick((a, b) => a > b)];
}
