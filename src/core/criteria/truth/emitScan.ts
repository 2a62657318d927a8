import type { Surroundings } from '@/core/emit';
import { emitExpression, prelude } from '@/core/emit/js';
import { minus, type Node, operandsOf, type SlotNumber } from '@/core/plan';
import { roundingOf } from './rounding';
import { sizeOf } from './size';

/** How one signal of a quantity lies in the trace. */
export interface Layout {
  readonly slot: SlotNumber;
  /** Straight between its rows; else it keeps its value. */
  readonly straight: boolean;
  /** Index into the other bases; −1 for the one that is walked. */
  readonly base: number;
}

/** What is walked for: a quantity, or the truth of an expression, over signals that lie so. */
export interface Walk {
  readonly node: Node;
  /** A BOOL expression: true is +½, false −½, missing is NaN. */
  readonly isTruth: boolean;
  readonly layout: readonly Layout[];
  /** Slots that do not change in a run. */
  readonly constants: readonly SlotNumber[];
}

/** Letters of a walk: what they begin with, and what they mean. */
const letters: readonly (readonly [letter: string, start: string, meaning: string])[] = [
  ['T', '$.T', 'times of the walked base'],
  ['C', '$.C', 'columns'],
  ['B', '$.B', 'times of other bases'],
  ['K', '$.K', 'values of constants'],
  ['x', '$.X', 'signals at the start of a cell, for the sink'],
  ['y', '$.Y', 'signals at the end of a cell, for the sink'],
  ['n', 'T.length', 'number of rows'],
  ['j', '0', 'the row walked to'],
  ['q', '0', 'the last row of its instant'],
  ['t', '0', 'time of the instant'],
  ['tp', '0', 'time of the instant before'],
  ['pd', '0', 'quantity just after the instant before'],
  ['dl', '0', 'quantity just before the instant'],
  ['dr', '0', 'quantity at and just after the instant'],
];

/** Letters with a number: of signal i, of the other base k, of bend b. */
const numbered = {
  signal: (i: number): string[] => [
    `C${i}=C[${i}]`, // its column
    `l${i}=0`, // its value just before the instant
    `r${i}=0`, // its value at and just after the instant; before that, of the instant before
  ],
  base: (k: number): string[] => [
    `B${k}=B[${k}]`, // its times
    `p${k}=-1`, // its last row that is not after the instant
  ],
  bend: (b: number): string[] => [
    `g${b}=0`, // what bends where it changes sign, at the row before
    `h${b}=0`, // and at this row
  ],
};

/** $0: a number of a given size, 0 where rounding tells no more. */
const rounding = `function $0(d,s){return Math.abs(d)<=${roundingOf(1)}*s?0:d}`;

function emitRounded(node: Node, around: Surroundings): string {
  const size = sizeOf(node);
  const text = emitExpression(node, around);
  return size ? `$0(${text},${emitExpression(size, around)})` : text;
}

/** Body of a function of (N, F, z, K): a quantity over the vector z of signals. */
export function emitValue(node: Node, layout: readonly Layout[], constants: readonly SlotNumber[]): string {
  return `"use strict";${prelude}${rounding}return ${emitRounded(
    node,
    named(layout, constants, (i) => `z[${i}]`),
  )}`;
}

/** Body of a function of (N, F) that gives the code of a walk (`Code` in scan.ts). */
export function emitScan(walk: Walk): string {
  return new ScanText(walk).program();
}

class ScanText {
  private readonly anyStraight: boolean;
  private readonly bends: readonly Node[];
  /** Other bases that signals lie on. */
  private readonly others: readonly number[];

  constructor(private readonly walk: Walk) {
    this.anyStraight = walk.layout.some((one) => one.straight);
    this.bends = this.anyStraight ? bendsOf(walk.node) : [];
    this.others = [...new Set(walk.layout.map((one) => one.base).filter((base) => base >= 0))];
  }

  program(): string {
    const vector = this.named((i) => `z[${i}]`);
    return `"use strict";${prelude}
${rounding}
function S(b,t){var x=-1,y=b.length-1;while(x<y){var m=(x+y+1)>>1;if(b[m]<=t)x=m;else y=m-1}return x}
return {
${this.timeline()},
${this.least()},
value:function(K,z){return ${this.quantity(vector, (i) => `z[${i}]`)}},
bends:[${this.bends.map((one) => `function(K,z){return ${emitExpression(one, vector)}}`).join(',')}]}`;
  }

  /** Tells the sink every instant at which the truth of the quantity's sign may be another; `sg` is the sign that was told last (2: zero, 0: none). */
  private timeline(): string {
    const [above, below] = this.signsAtRow();
    return `timeline:function($,sink){${this.declare()}var sg=0;
while(j<n){${this.pass(above, 'sg===1', 'n')}${this.pass(below, 'sg===-1', 'n')}${toInstant}
${this.anyStraight ? `if(j>0){${this.left()}dl=${this.at('l')};if(!(${this.sameSign()})){${this.storeCell()}sink.cell(tp,t);sg=${this.bends.length > 0 ? '0' : 'pd===0&&dl===0?2:0'}}}` : ''}
${this.forward()}${this.right()}dr=${this.at('r')};
if(!(dr>0&&sg===1||dr<0&&sg<0||dr===0&&sg===2)){sink.point(t,dr);sg=dr>0?1:dr<0?-1:dr===0?2:0}
pd=dr;tp=t;j=q+1}}`;
  }

  /** Tells the sink each value that is less than those before it, from `a` to `b`; `ca` to `cb` is what of a cell lies in the window. */
  private least(): string {
    return `least:function($,a,b,closed,sink){${this.declare()}var low=Infinity;
var lo=0,hi=n-1;while(lo<hi){var m=(lo+hi+1)>>1;if(T[m]<=a)lo=m;else hi=m-1}
while(lo>0&&T[lo-1]===T[lo])lo--;
j=lo;${this.others.map((base) => `p${base}=S(B${base},T[j]);`).join('')}
var first=true,z=j;hi=n;while(z<hi){var m=(z+hi)>>1;if(T[m]<b)z=m+1;else hi=m}
while(j<n){${this.pass(`${this.atRow()}>=low`, '!first&&tp>=a', 'z')}${toInstant}
if(!first){if(tp>b||tp===b)break;${this.left()}dl=${this.at('l')};if(dl!==dl)sink.complete=false;
var ca=tp>a?tp:a,cb=t<b?t:b;
if(ca===tp&&cb===t${this.notBent()}){if(pd<low){low=pd;${this.each((_, i) => `x[${i}]=r${i};`)}sink.improve(pd,0)}if(dl<low){low=dl;${this.each((_, i) => `y[${i}]=l${i};`)}sink.improve(dl,1)}}
else if(ca<cb||ca===cb&&closed&&ca<t){${this.storeCell()}sink.piece(tp,t,ca,cb);low=sink.low}}
${this.forward()}${this.right()}dr=${this.at('r')};if(dr!==dr)sink.complete=false;
if(t>=a&&(t<b||t===b&&closed)&&dr<low){low=dr;${this.each((_, i) => `x[${i}]=r${i};`)}sink.improve(dr,0)}
first=false;pd=dr;tp=t;j=q+1}}`;
  }

  private declare(): string {
    const { layout } = this.walk;
    const locals = [
      ...layout.flatMap((_, i) => numbered.signal(i)),
      ...this.others.flatMap(numbered.base),
      ...this.bends.flatMap((_, b) => numbered.bend(b)),
    ];
    return `var ${letters.map(([letter, start]) => `${letter}=${start}`).join()}${locals.map((one) => `,${one}`).join('')};`;
  }

  private each(piece: (one: Layout, index: number) => string): string {
    return this.walk.layout.map(piece).join('');
  }

  private named(name: (index: number) => string): Surroundings {
    return named(this.walk.layout, this.walk.constants, name);
  }

  /** The quantity over signals by their names. */
  private quantity(around: Surroundings, name: (index: number) => string): string {
    const { node, isTruth, layout } = this.walk;
    if (!isTruth) return emitRounded(node, around);
    const text = emitExpression(node, around);
    const missing = layout.map((_, i) => `${name(i)}!==${name(i)}`).join('||') || 'false';
    return `((${missing})?NaN:(${text})-0.5)`;
  }

  /** The quantity over signals by a letter: `l` just before the instant, `r` at it. */
  private at(letter: string): string {
    const name = (i: number): string => `${letter}${i}`;
    return this.quantity(this.named(name), name);
  }

  /** The quantity at the row walked to. */
  private atRow(): string {
    return this.at('row').replace(/row(\d+)/g, 'C$1[j]');
  }

  /** Whether the quantity is above or below 0 at the row. A truth need not become a number first; a missing value is neither true nor false. */
  private signsAtRow(): readonly [above: string, below: string] {
    const { node, isTruth, layout } = this.walk;
    if (!isTruth) return [`${this.atRow()}>0`, `${this.atRow()}<0`];
    const truth = `${layout.map((_, i) => `C${i}[j]===C${i}[j]&&`).join('')}(${emitExpression(
      node,
      this.named((i) => `C${i}[j]`),
    )})`;
    return [`${truth}===1`, `${truth}===0`];
  }

  /** Signals just before the instant: `l0=C0[j];` of a straight one, `l0=r0;` of a held one. */
  private left(): string {
    return this.each((one, i) => (one.straight ? `l${i}=C${i}[j];` : `l${i}=r${i};`));
  }

  /** Signals at the instant: `r0=C0[q];`, or from the row of their own base. */
  private right(): string {
    return this.each((one, i) => (one.base < 0 ? `r${i}=C${i}[q];` : `r${i}=p${one.base}<0?NaN:C${i}[p${one.base}];`));
  }

  /** The rows of other bases: `while(p0+1<B0.length&&B0[p0+1]<=t)p0++;` */
  private forward(): string {
    return this.others.map((base) => `while(p${base}+1<B${base}.length&&B${base}[p${base}+1]<=t)p${base}++;`).join('');
  }

  private storeCell(): string {
    return this.each((_, i) => `x[${i}]=r${i};y[${i}]=l${i};`);
  }

  /** `&&!((r0)*(l0)<0)` for each bend: none of them lies in the cell. */
  private notBent(): string {
    return this.bends
      .map((one) => {
        const sign = (letter: string): string =>
          emitExpression(
            one,
            this.named((i) => `${letter}${i}`),
          );
        return `&&!((${sign('r')})*(${sign('l')})<0)`;
      })
      .join('');
  }

  private sameSign(): string {
    return `(pd>0&&dl>0||pd<0&&dl<0||pd===0&&dl===0&&sg===2)${this.notBent()}`;
  }

  /**
   * Where all signals stand in the walked rows, rows that change nothing and bend nothing are passed over in one tight loop.
   * It stops before the rows of an instant, so that a jump is always seen whole. What bends where it changes sign is evaluated once a row: g has it from the row before.
   * @param worth what holds at a row that changes nothing
   * @param before what has to hold for the loop to be tried
   * @param end the row before which it ends
   */
  private pass(worth: string, before: string, end: string): string {
    if (this.others.length > 0) return '';
    const signs = this.bends.map((one) => (index: string): string => {
      const around = this.named((i) => `C${i}[${index}]`);
      return emitExpression(one, around);
    });
    const begun = signs.map((sign, index) => `g${index}=${sign('j-1')};`).join('');
    const straightOn = signs.map((sign, index) => `&&g${index}*(h${index}=${sign('j')})>=0`).join('');
    const onward = signs.map((_, index) => `g${index}=h${index};`).join('');
    const passed = `tp=T[j-1];${this.each((_, i) => `r${i}=C${i}[j-1];`)}pd=${this.at('r')};if(j>=n)break`;
    return `if(${before}){var s=j;${begun}while(j<${end}&&${worth}${straightOn}){${onward}j++}while(j>s&&j<n&&T[j-1]===T[j])j--;if(j>s){${passed}}}`;
  }
}

/** Goes to the next instant: its time, and the last of its rows. */
const toInstant = 't=T[j];q=j;while(q+1<n&&T[q+1]===t)q++;';

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
  const inner = operandsOf(node).flatMap(bendsOf);
  if (node.k !== 'call') return inner;
  const [a, b] = node.operands;
  if (node.fn === 'ABS' && a) return [...inner, a];
  if ((node.fn === 'MIN' || node.fn === 'MAX') && a && b) return [...inner, minus(a, b)];
  return inner;
}
