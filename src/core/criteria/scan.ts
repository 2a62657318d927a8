import { emitExpression, prelude, type Surroundings } from '../emit/js';
import { type Numeric, numeric } from '../numeric';
import type { Node, SlotNumber } from '../plan';
import { slotsRead } from '../plan';
import type { Column, Trace } from '../trace';
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
}

/**
 * A quantity of a trace in dense time. Between rows its signals run as their columns say; ABS, MIN and MAX bend where they must,
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

interface Code {
  timeline(point: (t: number, d: number) => void, cell: (from: number, until: number) => void): void;
  least(from: number, until: number, closed: boolean, improve: (d: number, side: number) => void, piece: (from: number, until: number, low: number, high: number) => void, low: number): void;
  value(z: ArrayLike<number>): number;
  readonly bends: readonly ((z: ArrayLike<number>) => number)[];
}
type Factory = (N: Numeric, F: () => void, X: Float64Array, Y: Float64Array, T: Float64Array, C: readonly Float64Array[], B: readonly Float64Array[], K: readonly number[]) => Code;

/** Compiled texts, shared by all runs: a campaign judges the same criteria over and over. */
const factories = new Map<string, Factory>();
const mostFactories = 2000;

function factoryOf(text: string): Factory {
  const known = factories.get(text);
  if (known) return known;
  if (factories.size >= mostFactories) factories.clear();
  const factory = new Function('N', 'F', 'X', 'Y', 'T', 'C', 'B', 'K', text) as Factory;
  factories.set(text, factory);
  return factory;
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
  // Base 0 holds every instant of the run; a recorded CSV has no other.
  const bases = [...new Set(columns.map(({ column }) => column.base).filter((base) => base > 0))];
  const layout = columns.map(({ slot, column }) => ({ slot, straight: column.between === 'straight', base: bases.indexOf(column.base) }));
  const x = new Float64Array(columns.length);
  const y = new Float64Array(columns.length);
  const code = factoryOf(emitScan(node, isTruth, layout, constants))(
    numeric, () => undefined, x, y, trace.bases[0] ?? new Float64Array(0), columns.map(({ column }) => column.data), bases.map((base) => trace.bases[base] ?? new Float64Array(0)), constants.map(signals.constant),
  );
  return {
    timeline: (strict) => timelineOf(code, strict, trace.until, x, y),
    least: (from, until, closed) => leastOf(code, from, until, closed, x, y),
    valueAt: (other, at) => {
      const text = `"use strict";${prelude}return ${emitExpression(other, vectorOf(layout, constants))}`;
      const evaluate = new Function('N', 'F', 'z', 'K', text) as (N: Numeric, F: () => void, z: readonly number[], K: readonly number[]) => number;
      return evaluate(numeric, () => undefined, at, constants.map(signals.constant));
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

function timelineOf(code: Code, strict: boolean, until: number, x: Float64Array, y: Float64Array): Timeline {
  const line: Timeline = { time: [], point: [], span: [], until };
  code.timeline(
    (t, d) => append(line, t, truthOf(d, strict), truthOf(d, strict)),
    (from, to) => {
      const pieces = bend(code, x, y);
      pieces.forEach(({ share, value }, index) => {
        const next = pieces[index + 1];
        if (!next) return;
        const t = index === 0 ? from : from + (to - from) * share;
        const end = index + 2 === pieces.length ? to : from + (to - from) * next.share;
        const [a, b] = [value, next.value];
        if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
          const zero = t + (end - t) * (a / (a - b));
          append(line, t, truthOf(a, strict), truthOf(a, strict));
          append(line, zero, truthOf(0, strict), truthOf(b, strict));
        } else {
          append(line, t, truthOf(a, strict), truthInside(a, b, strict));
        }
      });
    },
  );
  return line;
}

/** Cuts a cell (values x at its start, y at its end) where ABS, MIN or MAX bend; inner bends first, so that the outer ones are straight by then. */
function bend(code: Code, x: Float64Array, y: Float64Array): { share: number; value: number }[] {
  let shares = [0, 1];
  const at = (share: number): number[] => Array.from(x, (start, i) => (share === 0 ? start : share === 1 ? (y[i] as number) : start + share * ((y[i] as number) - start)));
  for (const bends of code.bends) {
    const next: number[] = [];
    shares.forEach((share, index) => {
      next.push(share);
      const end = shares[index + 1];
      if (end === undefined) return;
      const [a, b] = [bends(at(share)), bends(at(end))];
      if ((a < 0 && b > 0) || (a > 0 && b < 0)) next.push(share + (end - share) * (a / (a - b)));
    });
    shares = next;
  }
  return shares.map((share) => ({ share, value: code.value(at(share)) }));
}

function leastOf(code: Code, from: number, until: number, closed: boolean, x: Float64Array, y: Float64Array): Least {
  let low = Number.POSITIVE_INFINITY;
  let at: number[] = [];
  const take = (d: number, vector: ArrayLike<number>): void => {
    if (d < low || (at.length === 0 && d === low)) {
      low = d;
      at = Array.from(vector);
    }
  };
  code.least(
    from, until, closed,
    (d, side) => take(d, side === 0 ? x : y),
    (start, end, a, b) => {
      // A cell that bends or is cut by the window: look at the cut ends and at every bend between them.
      const pieces = bend(code, x, y);
      const shares = pieces.map((piece) => piece.share);
      const [low01, high01] = [(a - start) / (end - start), (b - start) / (end - start)];
      for (const share of [low01, ...shares.filter((one) => one > low01 && one < high01), high01]) {
        const vector = Array.from(x, (value, i) => (share === 0 ? value : share === 1 ? (y[i] as number) : value + share * ((y[i] as number) - value)));
        take(code.value(vector), vector);
      }
    },
    Number.POSITIVE_INFINITY,
  );
  return { value: low, at };
}

interface Layout {
  readonly slot: SlotNumber;
  readonly straight: boolean;
  /** Index into the sampled bases; −1 for base 0. */
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
      if ((node.fn === 'MIN' || node.fn === 'MAX') && a && b) return [...inner, { k: 'arithmetic', type: 'LREAL', operator: '-', a, b, site: 0 }];
      return inner;
    }
    default:
      return [];
  }
}

function emitScan(node: Node, isTruth: boolean, layout: readonly Layout[], constants: readonly SlotNumber[]): string {
  const quantity = (around: Surroundings, name: (index: number) => string): string => {
    const text = emitExpression(node, around);
    if (!isTruth) return text;
    const missing = layout.map((_, i) => `${name(i)}!==${name(i)}`).join('||') || 'false';
    return `((${missing})?NaN:(${text})-0.5)`;
  };
  const at = (prefix: string): string => quantity(named(layout, constants, (i) => `${prefix}${i}`), (i) => `${prefix}${i}`);
  const anyStraight = layout.some((one) => one.straight);
  const bends = anyStraight ? bendsOf(node) : [];
  const sampled = [...new Set(layout.map((one) => one.base).filter((base) => base >= 0))];
  const each = (piece: (one: Layout, index: number) => string): string => layout.map(piece).join('');
  const left = each((one, i) => (one.straight ? `l${i}=C${i}[j];` : `l${i}=r${i};`));
  const right = each((one, i) => (one.base < 0 ? `r${i}=C${i}[q];` : `r${i}=p${one.base}<0?NaN:C${i}[p${one.base}];`));
  const forward = sampled.map((base) => `while(p${base}+1<B[${base}].length&&B[${base}][p${base}+1]<=t)p${base}++;`).join('');
  const store = each((_, i) => `X[${i}]=r${i};Y[${i}]=l${i};`);
  const bent = bends.map((one) => {
    const sign = (prefix: string): string => emitExpression(one, named(layout, constants, (i) => `${prefix}${i}`));
    return `(${sign('r')})*(${sign('l')})<0`;
  });
  const locals = [...layout.flatMap((_, i) => [`C${i}=C[${i}]`, `l${i}=0`, `r${i}=0`]), ...sampled.map((base) => `p${base}=-1`)];
  const declare = `var n=T.length,j=0,q=0,t=0,tp=0,pd=0,dl=0,dr=0${locals.map((one) => `,${one}`).join('')};`;
  const group = 't=T[j];q=j;while(q+1<n&&T[q+1]===t)q++;';
  const sameSign = `(pd>0&&dl>0||pd<0&&dl<0)${bent.map((one) => `&&!(${one})`).join('')}`;
  const vector = vectorOf(layout, constants);
  return `"use strict";${prelude}
return {
timeline:function(point,cell){${declare}var sg=0;
while(j<n){${group}
${anyStraight ? `if(j>0){${left}dl=${at('l')};if(!(${sameSign})){${store}cell(tp,t);sg=0}}` : ''}
${forward}${right}dr=${at('r')};
if(!(dr>0&&sg>0||dr<0&&sg<0)){point(t,dr);sg=dr>0?1:dr<0?-1:0}
pd=dr;tp=t;j=q+1}},
least:function(a,b,closed,improve,piece,low){${declare}
var lo=0,hi=n-1;while(lo<hi){var m=(lo+hi+1)>>1;if(T[m]<=a)lo=m;else hi=m-1}
while(lo>0&&T[lo-1]===T[lo])lo--;
j=lo;${sampled.map((base) => `(function(){var x=-1,y=B[${base}].length-1;while(x<y){var m=(x+y+1)>>1;if(B[${base}][m]<=T[j])x=m;else y=m-1}p${base}=x})();`).join('')}
var first=true;
while(j<n){${group}
if(!first){if(tp>b||tp===b)break;${left}dl=${at('l')};
var ca=tp>a?tp:a,cb=t<b?t:b;
if(ca===tp&&cb===t${bent.map((one) => `&&!(${one})`).join('')}){if(pd<low){low=pd;${each((_, i) => `X[${i}]=r${i};`)}improve(pd,0)}if(dl<low){low=dl;${each((_, i) => `Y[${i}]=l${i};`)}improve(dl,1)}}
else if(ca<cb||ca===cb&&closed&&ca<t){${store}piece(tp,t,ca,cb)}}
${forward}${right}dr=${at('r')};
if(t>=a&&(t<b||t===b&&closed)&&dr<low){low=dr;${each((_, i) => `X[${i}]=r${i};`)}improve(dr,0)}
first=false;pd=dr;tp=t;j=q+1}},
value:function(z){return ${quantity(vector, (i) => `z[${i}]`)}},
bends:[${bends.map((one) => `function(z){return ${emitExpression(one, vector)}}`).join(',')}]}`;
}
