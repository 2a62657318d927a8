import type { Surroundings } from '@/core/emit';
import { emitExpression, prelude } from '@/core/emit/js';
import { Recent } from '@/core/memory';
import { type Numeric, numeric } from '@/core/numeric';
import { minus, type Node, type SlotNumber, slotsRead } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import { roundingOf } from './rounding';
import { sizeOf } from './size';
import { append, type Timeline, type Truth } from './timeline';

/** Columns of a trace by slot, and the values of slots that do not change in a run (parameters). */
export interface Signals {
  readonly trace: Trace;
  readonly column: (slot: SlotNumber) => Column | undefined;
  readonly constant: (slot: SlotNumber) => number;
}

/** The least value of a quantity over a window, with the values of its signals there. */
export interface Least {
  readonly value: number;
  readonly at: readonly number[];
  /** No value was missing in the window. */
  readonly complete: boolean;
}

/**
 * A quantity of a trace in dense time; one that differs from 0 by no more than the rounding of its own sums is 0 (1.05 − 1 is no more than 0.05). Between rows its signals run as their columns say; ABS, MIN and MAX bend where they must,
 * so that the quantity is straight between the rows, the bends and its own zeros.
 */
export interface Scan {
  /** Truth of "quantity > 0" (strict) or "≥ 0" over the whole trace. */
  timeline(strict: boolean): Timeline;
  /** Infimum over [from, until) or [from, until]. */
  least(from: number, until: number, closed: boolean): Least;
  /** Value of another quantity at a point that `least` gave; it may read no signals but those of this one. */
  valueAt(node: Node, at: readonly number[]): number;
}

/** What emitted code reads: walked base, columns, other bases, constants, and two vectors for the ends of a cell. */
interface Reach {
  readonly T: Float64Array;
  readonly C: readonly Float64Array[];
  readonly B: readonly Float64Array[];
  readonly K: readonly number[];
  readonly X: Float64Array;
  readonly Y: Float64Array;
}

interface Code {
  timeline(reach: Reach, sink: TimelineSink): void;
  least(reach: Reach, from: number, until: number, closed: boolean, sink: LeastSink): void;
  value(K: readonly number[], z: ArrayLike<number>): number;
  readonly bends: readonly ((K: readonly number[], z: ArrayLike<number>) => number)[];
}
type Factory = (N: Numeric, F: () => void) => Code;

/**
 * Compiled code by its text, shared by all runs: a campaign judges the same criteria over and over. It is handed its data at each call,
 * because code that closes over a trace is thrown away by the engine together with the trace.
 */
const codes = new Recent<Code>(1_000_000);

function codeOf(text: string): Code {
  const known = codes.get(text);
  if (known) return known;
  const code = (new Function('N', 'F', text) as Factory)(numeric, () => undefined);
  codes.set(text, code);
  return code;
}

/** Code by the very expression and how its signals lie, so that the text need not be printed anew for each trace. */
const codesOfNodes = new WeakMap<Node, Map<string, Code>>();

function codeFor(node: Node, isTruth: boolean, layout: readonly Layout[], constants: readonly SlotNumber[]): Code {
  const key = `${isTruth}${layout.map(({ straight, base }) => `${straight}${base}`).join()}/${constants.length}`;
  const known = codesOfNodes.get(node) ?? new Map<string, Code>();
  const code = known.get(key) ?? codeOf(emitScan(node, isTruth, layout, constants));
  codesOfNodes.set(node, known.set(key, code));
  return code;
}

/** Compiles a quantity for one trace. `isTruth` marks a BOOL expression: true is +½, false −½, missing is NaN. */
export function scan(node: Node, isTruth: boolean, signals: Signals): Scan {
  const slots = [...slotsRead(node)];
  const columns = slots.flatMap((slot) => {
    const column = signals.column(slot);
    return column ? [{ slot, column }] : [];
  });
  const constants = slots.filter((slot) => !signals.column(slot));
  const { trace } = signals;
  // Base 0 holds every instant of the run; signals of one task alone are walked on that task's own base.
  const all = [...new Set(columns.map(({ column }) => column.base))];
  const main = all.length === 1 ? (all[0] ?? 0) : 0;
  const bases = all.filter((base) => base !== main);
  const layout = columns.map(({ slot, column }) => ({ slot, straight: column.between === 'straight', base: bases.indexOf(column.base) }));
  const reach: Reach = {
    T: trace.bases[main] ?? new Float64Array(0),
    C: columns.map(({ column }) => column.data),
    B: bases.map((base) => trace.bases[base] ?? new Float64Array(0)),
    K: constants.map(signals.constant),
    X: new Float64Array(columns.length),
    Y: new Float64Array(columns.length),
  };
  const code = codeFor(node, isTruth, layout, constants);
  return {
    timeline: (strict) => {
      const sink = new TimelineSink(code, strict, trace.until, reach);
      code.timeline(reach, sink);
      return sink.line;
    },
    least: (from, until, closed) => {
      const sink = new LeastSink(code, reach);
      code.least(reach, from, until, closed, sink);
      return { value: sink.low, at: sink.at, complete: sink.complete };
    },
    valueAt: (other, at) => {
      const text = `"use strict";${prelude}${rounding}return ${emitRounded(other, vectorOf(layout, constants))}`;
      const evaluate = new Function('N', 'F', 'z', 'K', text) as (N: Numeric, F: () => void, z: readonly number[], K: readonly number[]) => number;
      return evaluate(numeric, () => undefined, at, reach.K);
    },
  };
}

function truthOf(d: number, strict: boolean): Truth {
  if (Number.isNaN(d)) return 2;
  return d > 0 || (d === 0 && !strict) ? 1 : 0;
}

/** Truth inside a straight piece that does not change sign, from the values at its ends. */
function truthInside(a: number, b: number, strict: boolean): Truth {
  if (Number.isNaN(a) || Number.isNaN(b)) return 2;
  if (a > 0 || b > 0) return 1;
  return a < 0 || b < 0 ? 0 : truthOf(0, strict);
}

/** Takes what the emitted walk finds. A class, so that the walk's calls keep one target and stay inlined from run to run. */
class TimelineSink {
  readonly line: Timeline;

  constructor(
    private readonly code: Code,
    private readonly strict: boolean,
    until: number,
    private readonly reach: Reach,
  ) {
    this.line = { time: [], point: [], span: [], until };
  }

  point(t: number, d: number): void {
    append(this.line, t, truthOf(d, this.strict), truthOf(d, this.strict));
  }

  /** A cell whose truth is not plain from the signs at its ends. */
  cell(from: number, to: number): void {
    const { line, strict } = this;
    const pieces = bend(this.code, this.reach);
    pieces.forEach(({ share, value: a }, index) => {
      const next = pieces[index + 1];
      if (!next) return;
      const b = next.value;
      const t = index === 0 ? from : from + (to - from) * share;
      const end = index + 2 === pieces.length ? to : from + (to - from) * next.share;
      if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
        const zero = t + (end - t) * (a / (a - b));
        append(line, t, truthOf(a, strict), truthOf(a, strict));
        append(line, zero, truthOf(0, strict), truthOf(b, strict));
      } else {
        append(line, t, truthOf(a, strict), truthInside(a, b, strict));
      }
    });
  }
}

/** Keeps the least value and where its signals stood. */
class LeastSink {
  low = Number.POSITIVE_INFINITY;
  at: number[] = [];
  complete = true;

  constructor(
    private readonly code: Code,
    private readonly reach: Reach,
  ) {}

  /** A new least, at the start (side 0: x) or end (side 1: y) of a cell. */
  improve(d: number, side: number): void {
    this.low = d;
    const vector = side === 0 ? this.reach.X : this.reach.Y;
    for (let i = 0; i < vector.length; i += 1) this.at[i] = vector[i] as number;
  }

  /** A cell that bends or is cut by the window: look at the cut ends and at every bend between them. */
  piece(start: number, end: number, a: number, b: number): void {
    const [low, high] = [(a - start) / (end - start), (b - start) / (end - start)];
    const bends = bend(this.code, this.reach)
      .map((one) => one.share)
      .filter((share) => share > low && share < high);
    for (const share of [low, ...bends, high]) {
      const vector = between(this.reach, share);
      const d = this.code.value(this.reach.K, vector);
      if (d < this.low) {
        this.low = d;
        this.at = vector;
      }
    }
  }
}

function between({ X, Y }: Reach, share: number): number[] {
  return Array.from(X, (start, i) => (share === 0 ? start : share === 1 ? (Y[i] as number) : start + share * ((Y[i] as number) - start)));
}

/** Cuts a cell (values X at its start, Y at its end) where ABS, MIN or MAX bend; inner bends first, so that the outer ones are straight by then. */
function bend(code: Code, reach: Reach): { share: number; value: number }[] {
  let shares = [0, 1];
  const at = (share: number): number[] => between(reach, share);
  for (const bends of code.bends) {
    const next: number[] = [];
    shares.forEach((share, index) => {
      next.push(share);
      const end = shares[index + 1];
      if (end === undefined) return;
      const [a, b] = [bends(reach.K, at(share)), bends(reach.K, at(end))];
      if ((a < 0 && b > 0) || (a > 0 && b < 0)) next.push(share + (end - share) * (a / (a - b)));
    });
    shares = next;
  }
  return shares.map((share) => ({ share, value: code.value(reach.K, at(share)) }));
}

interface Layout {
  readonly slot: SlotNumber;
  readonly straight: boolean;
  /** Index into the other bases; −1 for the one that is walked. */
  readonly base: number;
}

function vectorOf(layout: readonly Layout[], constants: readonly SlotNumber[]): Surroundings {
  return named(layout, constants, (i) => `z[${i}]`);
}

function named(layout: readonly Layout[], constants: readonly SlotNumber[], name: (index: number) => string): Surroundings {
  return {
    slot: (slot) => {
      const index = layout.findIndex((one) => one.slot === slot);
      return index >= 0 ? name(index) : `K[${constants.indexOf(slot)}]`;
    },
    time: 't',
    hit: '0',
  };
}

/** Arguments whose sign decides a bend, inner ones first. */
function bendsOf(node: Node): Node[] {
  switch (node.k) {
    case 'negate':
    case 'not':
    case 'convert':
      return bendsOf(node.a);
    case 'arithmetic':
    case 'compare':
    case 'logic':
      return [...bendsOf(node.a), ...bendsOf(node.b)];
    case 'select':
      return [...bendsOf(node.condition), ...bendsOf(node.yes), ...bendsOf(node.no)];
    case 'call': {
      const inner = node.operands.flatMap(bendsOf);
      const [a, b] = node.operands;
      if (node.fn === 'ABS' && a) return [...inner, a];
      if ((node.fn === 'MIN' || node.fn === 'MAX') && a && b) return [...inner, minus(a, b)];
      return inner;
    }
    default:
      return [];
  }
}

/** $0: a number of a given size, 0 where rounding tells no more. */
const rounding = `function $0(d,s){return Math.abs(d)<=${roundingOf(1)}*s?0:d}`;

function emitRounded(node: Node, around: Surroundings): string {
  const size = sizeOf(node);
  const text = emitExpression(node, around);
  return size ? `$0(${text},${emitExpression(size, around)})` : text;
}

function emitScan(node: Node, isTruth: boolean, layout: readonly Layout[], constants: readonly SlotNumber[]): string {
  const quantity = (around: Surroundings, name: (index: number) => string): string => {
    if (!isTruth) return emitRounded(node, around);
    const text = emitExpression(node, around);
    const missing = layout.map((_, i) => `${name(i)}!==${name(i)}`).join('||') || 'false';
    return `((${missing})?NaN:(${text})-0.5)`;
  };
  const at = (prefix: string): string =>
    quantity(
      named(layout, constants, (i) => `${prefix}${i}`),
      (i) => `${prefix}${i}`,
    );
  const anyStraight = layout.some((one) => one.straight);
  const bends = anyStraight ? bendsOf(node) : [];
  const sampled = [...new Set(layout.map((one) => one.base).filter((base) => base >= 0))];
  const each = (piece: (one: Layout, index: number) => string): string => layout.map(piece).join('');
  const left = each((one, i) => (one.straight ? `l${i}=C${i}[j];` : `l${i}=r${i};`));
  const right = each((one, i) => (one.base < 0 ? `r${i}=C${i}[q];` : `r${i}=p${one.base}<0?NaN:C${i}[p${one.base}];`));
  const forward = sampled.map((base) => `while(p${base}+1<B${base}.length&&B${base}[p${base}+1]<=t)p${base}++;`).join('');
  const store = each((_, i) => `x[${i}]=r${i};y[${i}]=l${i};`);
  const bent = bends.map((one) => {
    const sign = (prefix: string): string =>
      emitExpression(
        one,
        named(layout, constants, (i) => `${prefix}${i}`),
      );
    return `(${sign('r')})*(${sign('l')})<0`;
  });
  const locals = [
    ...layout.flatMap((_, i) => [`C${i}=C[${i}]`, `l${i}=0`, `r${i}=0`]),
    ...sampled.flatMap((base) => [`B${base}=B[${base}]`, `p${base}=-1`]),
    ...bends.flatMap((_, index) => [`g${index}=0`, `h${index}=0`]),
  ];
  const declare = `var T=$.T,C=$.C,B=$.B,K=$.K,x=$.X,y=$.Y,n=T.length,j=0,q=0,t=0,tp=0,pd=0,dl=0,dr=0${locals.map((one) => `,${one}`).join('')};`;
  const group = 't=T[j];q=j;while(q+1<n&&T[q+1]===t)q++;';
  const sameSign = `(pd>0&&dl>0||pd<0&&dl<0||pd===0&&dl===0&&sg===2)${bent.map((one) => `&&!(${one})`).join('')}`;
  const vector = vectorOf(layout, constants);
  // Where all signals stand in the walked rows, rows that change nothing and bend nothing are passed over in one tight loop.
  // The loop stops before the rows of an instant, so that a jump is always seen whole.
  const atRow = at('row').replace(/row(\d+)/g, 'C$1[j]');
  // What bends where it changes sign is evaluated once a row: g has it from the row before.
  const signs = bends.map((one) => (index: string): string => {
    const around = named(layout, constants, (i) => `C${i}[${index}]`);
    return emitExpression(one, around);
  });
  const begun = signs.map((sign, index) => `g${index}=${sign('j-1')};`).join('');
  const straightOn = signs.map((sign, index) => `&&g${index}*(h${index}=${sign('j')})>=0`).join('');
  const onward = signs.map((_, index) => `g${index}=h${index};`).join('');
  // A truth need not become a number first; a missing value is neither true nor false.
  const truthAtRow = `${layout.map((_, i) => `C${i}[j]===C${i}[j]&&`).join('')}(${emitExpression(
    node,
    named(layout, constants, (i) => `C${i}[j]`),
  )})`;
  const [above, below] = isTruth ? [`${truthAtRow}===1`, `${truthAtRow}===0`] : [`${atRow}>0`, `${atRow}<0`];
  const pass = (worth: string, before: string, end: string): string =>
    sampled.length === 0
      ? `if(${before}){var s=j;${begun}while(j<${end}&&${worth}${straightOn}){${onward}j++}while(j>s&&j<n&&T[j-1]===T[j])j--;if(j>s){tp=T[j-1];${each((_, i) => `r${i}=C${i}[j-1];`)}pd=${at('r')};if(j>=n)break}}`
      : '';
  return `"use strict";${prelude}
${rounding}
function S(b,t){var x=-1,y=b.length-1;while(x<y){var m=(x+y+1)>>1;if(b[m]<=t)x=m;else y=m-1}return x}
return {
timeline:function($,sink){${declare}var sg=0;
while(j<n){${pass(above, 'sg===1', 'n')}${pass(below, 'sg===-1', 'n')}${group}
${anyStraight ? `if(j>0){${left}dl=${at('l')};if(!(${sameSign})){${store}sink.cell(tp,t);sg=${bends.length > 0 ? '0' : 'pd===0&&dl===0?2:0'}}}` : ''}
${forward}${right}dr=${at('r')};
if(!(dr>0&&sg===1||dr<0&&sg<0||dr===0&&sg===2)){sink.point(t,dr);sg=dr>0?1:dr<0?-1:dr===0?2:0}
pd=dr;tp=t;j=q+1}},
least:function($,a,b,closed,sink){${declare}var low=Infinity;
var lo=0,hi=n-1;while(lo<hi){var m=(lo+hi+1)>>1;if(T[m]<=a)lo=m;else hi=m-1}
while(lo>0&&T[lo-1]===T[lo])lo--;
j=lo;${sampled.map((base) => `p${base}=S(B${base},T[j]);`).join('')}
var first=true,z=j;hi=n;while(z<hi){var m=(z+hi)>>1;if(T[m]<b)z=m+1;else hi=m}
while(j<n){${pass(`${atRow}>=low`, '!first&&tp>=a', 'z')}${group}
if(!first){if(tp>b||tp===b)break;${left}dl=${at('l')};if(dl!==dl)sink.complete=false;
var ca=tp>a?tp:a,cb=t<b?t:b;
if(ca===tp&&cb===t${bent.map((one) => `&&!(${one})`).join('')}){if(pd<low){low=pd;${each((_, i) => `x[${i}]=r${i};`)}sink.improve(pd,0)}if(dl<low){low=dl;${each((_, i) => `y[${i}]=l${i};`)}sink.improve(dl,1)}}
else if(ca<cb||ca===cb&&closed&&ca<t){${store}sink.piece(tp,t,ca,cb);low=sink.low}}
${forward}${right}dr=${at('r')};if(dr!==dr)sink.complete=false;
if(t>=a&&(t<b||t===b&&closed)&&dr<low){low=dr;${each((_, i) => `x[${i}]=r${i};`)}sink.improve(dr,0)}
first=false;pd=dr;tp=t;j=q+1}},
value:function(K,z){return ${quantity(vector, (i) => `z[${i}]`)}},
bends:[${bends.map((one) => `function(K,z){return ${emitExpression(one, vector)}}`).join(',')}]}`;
}
