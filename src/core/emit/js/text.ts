import { Sorted } from '@/core/emit';
import {
  type Assignment,
  type Crossing,
  conditionsIn,
  countersOf,
  decisionsOf,
  fixedMethods,
  groupTasks,
  type Node,
  ownColumns,
  type Plan,
  type PlanFunction,
  variableMethods,
} from '@/core/plan';
import {
  advanceOverArrays,
  emitAdvance,
  emitDerivative,
  emitOneStep,
  emitSteadyAdvance,
  emitStored,
  mostInlined,
  type Steps,
  stepsOf,
  underWay,
} from './continuous';
import { emitNumber, prelude } from './expression';
import { programLetters } from './letters';
import { ShortColumns } from './shortColumns';
import { type Counted, emitValue, emitWork, withTemporaries } from './work';

/**
 * Length of text up to which everything that happens from hit to hit is written into one function. The engine builds calls into their caller only up
 * to a small sum, and stops optimising functions above some 60 KB of its own code.
 */
const longestInlined = 14_000;

/** Hits in one call of `cruise`. The engine takes up newly optimised code when a function is entered; inside a loop that never ends it does so late or never. */
const hitsACall = 256;

/** Mulberry32 (Ettinger, public domain; from memory) on the state in a slot, and the normal distribution after Box and Muller (1958). */
const drawing = `function $u(k){const a=(v[k]+1831565813)|0;v[k]=a>>>0;let x=Math.imul(a^a>>>15,a|1);x^=x+Math.imul(x^x>>>7,x|61);return((x^x>>>14)>>>0)/4294967296}
function $n(k){const a=$u(k),x=$u(k);return Math.sqrt(-2*N.ln(1-a))*N.cos(6.283185307179586*x)}`;

interface Pieces {
  readonly advance: string;
  readonly outputs: string;
  readonly follow: string;
  readonly log: string;
  readonly tasks: readonly string[];
  readonly hits: readonly string[];
}

/** As many pieces written out as there is room for, the short ones first; calls for the others. */
function inlined(pieces: Pieces, calls: Pieces): Pieces {
  const all = Object.values(pieces).flat() as string[];
  let room = longestInlined;
  const within = new Set<string>();
  for (const piece of [...new Set(all)].sort((a, b) => a.length - b.length)) {
    room -= piece.length;
    if (room >= 0) within.add(piece);
  }
  const choose = (piece: string, call: string): string => (within.has(piece) ? piece : call);
  return {
    advance: choose(pieces.advance, calls.advance),
    outputs: choose(pieces.outputs, calls.outputs),
    follow: choose(pieces.follow, calls.follow),
    log: choose(pieces.log, calls.log),
    tasks: pieces.tasks.map((piece, index) => choose(piece, calls.tasks[index] as string)),
    hits: pieces.hits.map((piece, index) => choose(piece, calls.hits[index] as string)),
  };
}

export interface ProgramTexts {
  /** The body of a function of the numeric library `N` and the failure `F`, which gives the program: all a run needs, with steps over arrays. */
  readonly program: string;
  /** The latest rows of the continuous log, and of the hits of each task group. */
  readonly log: ShortColumns;
  readonly hits: readonly ShortColumns[];
  /** With a fixed step: the body of a function of the same and of the program's own variables, which gives the fast way over whole steps and from hit to hit. */
  stretch(): string | undefined;
}

/** The texts of a program; letters.ts says what its names mean. */
/** The decisions that somebody has written, each with its counters. */
function countedIn(plan: Plan): Counted {
  const work = decisionsOf(plan);
  const counters = countersOf(plan).of;
  return new Map(
    plan.decisions.flatMap(({ number, tree, askedWhen }, index) => {
      const [decision, own] = [work[number], counters[index]];
      if (!decision || !own) return [];
      const conditions = own.combinations ? { conditions: conditionsIn(tree).map((one) => one.node) } : {};
      return [[decision, { at: own.at, ...conditions, ...(askedWhen ? { askedWhen } : {}) }] as const];
    }),
  );
}

export function emitProgram(plan: Plan, extra: readonly Node[], coverage: boolean): ProgramTexts {
  const text = new ProgramText(plan, extra, coverage ? countedIn(plan) : undefined);
  return { program: text.emit(), log: text.log, hits: text.hits, stretch: () => text.emitStretch() };
}

class ProgramText {
  private readonly sorted: Sorted;
  private readonly groups: readonly { readonly periodNs: number; readonly offsetNs: number; readonly tasks: readonly number[] }[];
  private readonly outside: readonly number[];
  readonly log: ShortColumns;
  readonly hits: readonly ShortColumns[];
  private readonly written = new Map<string, string>();

  constructor(
    private readonly plan: Plan,
    private readonly extra: readonly Node[],
    private readonly counted: Counted,
  ) {
    const columns = ownColumns(plan);
    this.sorted = new Sorted(plan, columns);
    this.outside = this.sorted.outside();
    this.groups = groupTasks(plan);
    const longest = Math.max(0, ...this.groups.map((group) => group.periodNs));
    this.log = ShortColumns.of('c', 'row', columns, Math.ceil(longest / plan.solver.stepNs) + 2);
    this.hits = this.groups.map(({ tasks }, group) =>
      ShortColumns.of(
        `g${group}`,
        `l[${group}]`,
        tasks.flatMap((task) => plan.tasks[task]?.logged ?? []),
        1,
      ),
    );
  }

  emit(): string {
    const { plan, groups, outside, extra } = this;
    return `// ${this.beyond()}
"use strict";${prelude}
const v=new Float64Array(${plan.slots.length}),w=new Float64Array(3),K=new Float64Array(4),Q=new Float64Array(${groups.length}),H=new Float64Array(${groups.length}),l=new Int32Array(${groups.length}),b=new Uint32Array(${this.counted ? countersOf(plan).size : 0});
${drawing}
const u=new Float64Array(${outside.length});
${[this.log, ...this.hits].map((columns) => columns.declared()).join('')}
let S=null;
const $l=function(s){S=s};
${plan.functions.map((one, index) => this.function(one, index)).join('\n')}
const O=(function(t){${this.noted()}${this.outputs()}});
const f=function(t){${this.follow()}};
const G=function(t,x,d){${emitDerivative(this.sorted)}};
const C=function(row,t){${this.log.row('t')}};
const A=${advanceOverArrays(plan)};
const Z=function(){return ${this.isStale()}};
const J=function(row){return ${this.sameRow()}};
${plan.tasks.map((_, task) => `const T${task}=function(hit){${this.task(task)}};`).join('\n')}
${groups.map((_, group) => `const p${group}=function(t){${this.logHit(group)}};`).join('\n')}
const e=[${extra.map((node) => `function(t){return ${emitValue(node)}}`).join(',\n')}];
return {slots:v,clock:K,due:Q,counts:H,recentLog:c,recentRows:l,recentHits:[${groups.map((_, group) => `g${group}`).join(',')}],coverage:b,outputs:O,follow:f,stale:Z,derivative:G,advance:A,tasks:[${plan.tasks.map((_, index) => `T${index}`).join(',')}],logRow:C,sameRows:J,
hits:[${groups.map((_, group) => `p${group}`).join(',')}],
cruise:function(){K[2]=0},
listen:$l,
values:e,
crossings:[${plan.crossings.map((crossing) => `{holds:function(t){return ${emitValue(crossing.condition)}},apply:function(t){${this.resets(crossing)}}}`).join(',\n')}],
own:function(){return {${this.shared().join(',')},S}}}`;
  }

  /** What only the fast way depends on. It stands in the program's text as well, by which programs are told apart. */
  private beyond(): string {
    const { plan, groups } = this;
    const method = [...fixedMethods, ...variableMethods].indexOf(plan.solver.method);
    return JSON.stringify([method, plan.solver.stepNs, groups.map(({ periodNs, offsetNs, tasks }) => [periodNs, offsetNs, tasks]), plan.parameters]);
  }

  /** Variables of the program that the fast way uses; the listener `S` besides, which changes. */
  private shared(): string[] {
    const { plan, groups } = this;
    const tasks = plan.tasks.map((_, task) => `T${task}`);
    const ofGroups = groups.flatMap((_, group) => [`g${group}`, `p${group}`]);
    const letters = programLetters.filter((one) => one.isShared).map((one) => one.letter);
    return [...letters, ...plan.functions.map((_, index) => `f${index}`), ...tasks, ...ofGroups];
  }

  emitStretch(): string | undefined {
    const { plan } = this;
    if (plan.solver.method !== 'runge-kutta-4') return undefined;
    const steps = plan.states.length > mostInlined ? undefined : stepsOf(this.sorted, this.log);
    const step = steps ? emitOneStep(plan, steps) : '';
    return `"use strict";${prelude}
const {${this.shared().join(',')}}=$,$w=new Float64Array(${steps?.timed.length ?? 0});
${drawing}
let {S}=$;
${step === '' ? '' : `const a=function(ns,inner,row){${step}};`}
const B=function(limit,wait){${this.stretch(steps, step.length > longestInlined)}};
return {advance:${step === '' ? 'A' : this.advance()},
cruise:function(limit,wait){${this.cruise()}},
listen:function(s){S=s;$l(s)}}`;
  }

  /** Whole steps by the function that has them written out; the odd ones before a breakpoint are few, and go over arrays. */
  private advance(): string {
    const { stepNs } = this.plan.solver;
    return `function(from,step,count,row){if(step!==${stepNs})return A(from,step,count,row);${this.wholeSteps('from')}return row}`;
  }

  private wholeSteps(from: string): string {
    const diverged = this.diverged();
    return `for(let i=0,ns=${from};i<count;i++){${underWay('ns')}row=a(ns,i>0,row);ns+=${this.plan.solver.stepNs};${diverged === '' ? '' : `if(${diverged})break;`}}`;
  }

  /** Whether a state is no longer finite. */
  private diverged(): string {
    const { states } = this.plan;
    return states.length === 0 ? '' : `!(Math.abs(${states.map(({ slot }) => `v[${slot}]`).join('+')})<Infinity)`;
  }

  /** Most of a program stands in two functions: in its own, and in the way from hit to hit. It is written once. */
  private once(name: string, write: () => string): string {
    const text = this.written.get(name) ?? write();
    this.written.set(name, text);
    return text;
  }

  private noted(): string {
    return this.outside.map((slot, index) => `u[${index}]=v[${slot}];`).join('');
  }

  private outputs(): string {
    return this.once('outputs', () => withTemporaries((around) => emitStored(this.plan, around)));
  }

  private follow(): string {
    const changeable = this.sorted.changeable();
    return this.noted() + withTemporaries((around) => emitStored(changeable, around));
  }

  private isStale(): string {
    return this.outside.map((slot, index) => `u[${index}]!==v[${slot}]`).join('||') || 'false';
  }

  private sameRow(): string {
    return this.log.slots.map((_, index) => `${this.log.at(index + 1, 'row')}===${this.log.at(index + 1, 'row-1')}`).join('&&') || 'true';
  }

  /** One more row of a group's hits, and what counts them. */
  private logHit(group: number): string {
    return `${this.hits[group]?.row('t')}l[${group}]++;`;
  }

  /** A function of the project; what its decisions come to is not counted. */
  private function({ operands, locals, result, work }: PlanFunction, index: number): string {
    const taken = operands.map((slot, operand) => `v[${slot}]=a${operand};`).join('');
    const begun = locals.map((slot) => `v[${slot}]=${emitNumber(this.plan.slots[slot]?.start ?? 0)};`).join('');
    const body = withTemporaries((around) => emitWork(work, around, undefined));
    return `const f${index}=function(${operands.map((_, operand) => `a${operand}`).join(',')}){let B=0;${taken}${begun}${body}return v[${result}]};`;
  }

  private task(task: number): string {
    const work = this.plan.tasks[task]?.work ?? [];
    return this.once(`task ${task}`, () => `let B=0;${withTemporaries((around) => emitWork(work, around, this.counted))}`);
  }

  /** All new values from those before, then stored. */
  private resets({ sets }: Crossing): string {
    const values = sets.map(({ value }, index) => `const n${index}=${emitValue(value)};`);
    return [...values, ...sets.map(({ slot }, index) => `v[${slot}]=n${index};`)].join('');
  }

  /** The executive's way from hit to hit while nothing comes from outside: called once for thousands of hits, it costs them no more than the same loop in C. */
  private cruise(): string {
    if (this.groups.length === 0) return 'K[2]=0';
    return `for(let left=${hitsACall};left>0;left--){const n=B(limit,wait);if(n!==3){K[2]=n;return}}K[2]=3`;
  }

  /**
   * From one hit to the next, written out for one plan; what happens at an instant, and in which order, is the same as in the executive. It returns what `cruise` says in `clock[2]`.
   * It is a function of its own so that it has no loop around it: compiled for the inside of a loop, as the engine does with loops that have begun, the same text takes a quarter longer.
   */
  private stretch(steps: Steps | undefined, isLong: boolean): string {
    const { plan, groups } = this;
    if (groups.length === 0) return '';
    const step = plan.solver.stepNs;
    const steady = steps ? this.steadyStretch() : undefined;
    const diverged = this.diverged();
    const writtenOut = (pieces: Steps): string =>
      steady ? `{${emitSteadyAdvance(plan, pieces, steady / step)}}` : `{const from=now,step=${step};${emitAdvance(pieces)}}`;
    const callOfAdvance = steps ? this.wholeSteps('now') : `row=A(now,${step},count,row);`;
    const pieces = {
      advance: !steps || isLong ? callOfAdvance : writtenOut(steps),
      outputs: `{${withTemporaries((around) => emitStored({ inputs: plan.inputs, assignments: this.seen(plan.assignments) }, around))}}`,
      follow: this.afterTasks().follow,
      log: `{${this.log.row('t')}}`,
      tasks: plan.tasks.map((_, task) => `{const hit=H[${this.owner(task)}];${this.task(task)}}`),
      hits: groups.map((_, group) => `{${this.logHit(group)}}`),
    };
    const calls = {
      advance: callOfAdvance,
      outputs: 'O(t);',
      follow: '{f(t)}',
      log: 'C(row,t);',
      tasks: plan.tasks.map((_, task) => `T${task}(H[${this.owner(task)}]);`),
      hits: groups.map((_, group) => `p${group}(t);`),
    };
    const { advance, outputs, follow, log, tasks, hits } = steps ? inlined(pieces, calls) : calls;
    const finite = diverged === '' ? '' : `if(${diverged}){K[1]=row;return 2}`;
    const others = groups.slice(1).map((_, index) => `if(Q[${index + 1}]<next)next=Q[${index + 1}];`);
    const onwards = groups.map(
      ({ periodNs, offsetNs }, group) => `if(d${group}){${hits[group]}H[${group}]+=1;Q[${group}]=${offsetNs}+H[${group}]*${periodNs}}`,
    );
    const { sources, changed, columns } = this.afterTasks();
    return `let now=K[0],row=K[1]|0;
let next=Q[0];${others.join('')}
if(!(next<limit)${steady === undefined ? '' : `||next-now!==${steady}`})return 0;
const count=${steady === undefined ? `(next-now)/${step}|0` : steady / step};
if(row+count+2>${this.log.rows}${this.hits.map(({ rows }, group) => `||l[${group}]>=${rows}`).join('')})return 0;
${advance}
now=next;K[0]=now;K[1]=row;
const t=now/1e9;
${finite}
${outputs}${log}row++;
if(wait>=0&&e[wait](t)===1){${this.noted()}K[1]=row;return 1}
${sources}
${groups.map((_, group) => `const d${group}=Q[${group}]===now;`).join('')}
${plan.tasks.map((_, task) => `if(d${this.owner(task)})${tasks[task]}`).join('\n')}
${onwards.join('\n')}
${columns === '' ? '' : `if(${changed}){${follow}if(${columns}){${log}row++}}`}
K[1]=row;return 3`;
  }

  /** What is stored at a hit, where nobody looks at the rest before a step computes it for itself. */
  private seen(assignments: readonly Assignment[]): readonly Assignment[] {
    const seen = this.sorted.seen(this.extra);
    return assignments.filter((one) => seen.has(one));
  }

  /** The time between neighbouring hits (ns) where it is always the same: the shortest period, when the others are multiples of it and all begin together. */
  private steadyStretch(): number | undefined {
    const { groups, plan } = this;
    const shortest = Math.min(...groups.map((group) => group.periodNs));
    const fits = groups.every(({ periodNs, offsetNs }) => offsetNs === groups[0]?.offsetNs && periodNs % shortest === 0);
    return fits && shortest % plan.solver.stepNs === 0 ? shortest : undefined;
  }

  /** A second row for an instant is written only where the tasks have changed something that is logged. */
  private afterTasks(): { sources: string; changed: string; follow: string; columns: string } {
    const { sources, assignments, columns } = this.sorted.afterTasks();
    return {
      sources: columns.length === 0 ? '' : sources.map((slot) => `const o${slot}=v[${slot}];`).join(''),
      changed: sources.map((slot) => `o${slot}!==v[${slot}]`).join('||'),
      follow: `{${withTemporaries((around) => emitStored({ inputs: [], assignments: this.seen(assignments) }, around))}}`,
      columns: columns.map((column) => `${this.log.at(column + 1, 'row-1')}!==v[${this.log.slots[column]}]`).join('||'),
    };
  }

  /** The group a task belongs to. */
  private owner(task: number): number {
    return this.groups.findIndex((group) => group.tasks.includes(task));
  }
}
