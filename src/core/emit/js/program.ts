import { type Numeric, numeric, warmUp } from '../../numeric';
import { groupTasks, type Node, type Plan, type SlotNumber, type Work } from '../../plan';
import { Continuous, inputExpression, type Writer } from '../continuous';
import { type Surroundings, Temporaries } from '../surroundings';
import { emitExpression, emitTest, prelude } from './expression';

/** A run-time error inside emitted code: which site of the plan, and what happened. */
export class RunFault extends Error {
  constructor(
    readonly site: number,
    readonly what: string,
  ) {
    super(what);
  }
}

export interface MarkSink {
  mark(state: number, entered: boolean): void;
}

/** The specialised code of one plan, over slots of its own. Times are nanoseconds unless they are called seconds. */
export interface Program {
  readonly slots: Float64Array;
  /** Continuous outputs and free inputs at the present states, stored into their slots. */
  outputs(seconds: number): void;
  /** True when something from outside that `outputs` or the continuous log reads (commands of tasks, stimuli) has changed since `outputs` was last called. */
  stale(): boolean;
  /** Right-hand side for solvers that work on arrays. */
  derivative(seconds: number, x: Float64Array, dx: Float64Array): void;
  /**
   * `count` Runge–Kutta 4 steps (Kutta 1901) from `fromNs`, writing a row of the continuous log before every step but the first.
   * @returns the next free row
   */
  advance(fromNs: number, stepNs: number, count: number, row: number): number;
  /** Runs task `index` at its hit number `hit`. */
  readonly tasks: readonly ((hit: number) => void)[];
  /** Writes row `row` of the continuous log from the slots. */
  logRow(seconds: number, row: number): void;
  /** True when two neighbouring rows of the continuous log are equal. */
  sameRows(row: number): boolean;
  /** Takes over the log's columns: time first, then one for each slot of `Plan.logged`. */
  bind(columns: readonly Float64Array[]): void;
  /** Writes row `row` of the log of each task group from the slots. */
  readonly hits: readonly ((seconds: number, row: number) => void)[];
  /** Takes over the columns of a task group's log: time first, then the logged slots of its tasks in order. */
  bindHits(group: number, columns: readonly Float64Array[]): void;
  /** Names who is told when a chart's state is entered or left. */
  listen(marks: MarkSink): void;
  /** Values of further expressions (waits of a script, start values), by their index. */
  readonly values: readonly ((seconds: number) => number)[];
}

type Factory = (N: Numeric, F: (site: number, what: string) => never) => Program;

/** Compiled programs by their text: a plan stays compiled, and hot, for all runs of a worker. */
const programs = new Map<string, Program>();
const mostPrograms = 50;

/**
 * Compiles a plan to JavaScript, specialised: states and intermediate values live in local variables and the four evaluations of
 * Runge–Kutta 4 are inlined (docs/decisions/emitted-code.md). Needs a context that allows evaluation.
 *
 * Equal plans share one program and its slots, because fresh closures would start cold; it is reset here, so a program
 * must be done with before the same plan is compiled again.
 * @param extra further expressions to evaluate on the same slots
 */
export function compileProgram(plan: Plan, extra: readonly Node[]): Program {
  const text = textOf(plan, extra);
  let program = programs.get(text);
  if (!program) {
    if (programs.size >= mostPrograms) programs.clear();
    warmUp();
    const factory = new Function('N', 'F', text) as Factory;
    program = factory(numeric, (site, what) => {
      throw new RunFault(site, what);
    });
    programs.set(text, program);
  }
  for (let slot = 0; slot < plan.slots.length; slot += 1) program.slots[slot] = plan.slots[slot]?.start ?? 0;
  return program;
}

/** Texts by the very plan; only the further expressions can differ between its experiments. */
const textsOfPlans = new WeakMap<Plan, Map<string, string>>();

function textOf(plan: Plan, extra: readonly Node[]): string {
  const key = JSON.stringify(extra);
  const known = textsOfPlans.get(plan) ?? new Map<string, string>();
  const text = known.get(key) ?? emitProgram(plan, extra);
  textsOfPlans.set(plan, known.set(key, text));
  return text;
}

/** The text of the program: the body of a function of the numeric library and the failure. */
function emitProgram(plan: Plan, extra: readonly Node[]): string {
  const columns = plan.logged.map((_, index) => `c${index}`);
  const outside = new Continuous(plan, writer).outside();
  const groups = groupTasks(plan).map(({ tasks }, group) =>
    tasks.flatMap((task) => plan.tasks[task]?.logged ?? []).map((slot, index) => ({ slot, column: `g${group}_${index}` })),
  );
  return `"use strict";${prelude}
var v=new Float64Array(${plan.slots.length}),w=new Float64Array(3);
var S=null,c=null${columns.map((name) => `,${name}=null`).join('')}${outside.map((slot) => `,u${slot}=NaN`).join('')}${groups.map((logged, group) => `,g${group}=null${logged.map(({ column }) => `,${column}=null`).join('')}`).join('')};
var O=function(t){${outside.map((slot) => `u${slot}=v[${slot}];`).join('')}${withTemporaries((around) => emitStored(plan, around))}};
var G=function(t,x,d){${emitDerivative(plan)}};
var W=function(t,row){c[row]=t;${plan.logged.map((slot, index) => `c${index}[row]=v[${slot}];`).join('')}};
return {slots:v,
outputs:O,
stale:function(){return ${outside.map((slot) => `u${slot}!==v[${slot}]`).join('||') || 'false'}},
derivative:G,
${plan.states.length > mostInlined ? emitLargeAdvance(plan) : `advance:function(from,step,count,row){${emitAdvance(plan)}}`},
tasks:[${plan.tasks.map((task) => `function(hit){let B=0;${withTemporaries((around) => emitWork(task.work, around))}}`).join(',\n')}],
logRow:W,
sameRows:function(row){return ${plan.logged.map((_, index) => `c${index}[row]===c${index}[row-1]`).join('&&') || 'true'}},
bind:function(a){c=a[0];${columns.map((name, index) => `${name}=a[${index + 1}];`).join('')}},
hits:[${groups.map((logged, group) => `function(t,row){g${group}[row]=t;${logged.map(({ slot, column }) => `${column}[row]=v[${slot}];`).join('')}}`).join(',')}],
bindHits:function(k,a){${groups.map((logged, group) => `if(k===${group}){g${group}=a[0];${logged.map(({ column }, index) => `${column}=a[${index + 1}];`).join('')}}`).join('')}},
listen:function(s){S=s},
values:[${extra.map((node) => `function(t){return ${emitExpression(node, fromSlots)}}`).join(',\n')}]}`;
}

const writer: Writer = { expression: emitExpression, constant: 'const ', variable: 'let ', slot: (slot) => `v[${slot}]` };

const fromSlots: Surroundings = { slot: (slot) => `v[${slot}]`, time: 't', hit: 'hit' };

/** A function's text with the local variables it needs declared at its head. */
function withTemporaries(emit: (around: Surroundings) => string): string {
  const temporaries = new Temporaries();
  const body = emit({ ...fromSlots, temporaries });
  return temporaries.declaration() + body;
}

function emitWork(work: readonly Work[], around: Surroundings): string {
  return work.map((one) => emitOne(one, around)).join('');
}

/** Passes through loops that one hit of a task may take. */
const loopBudget = 1_000_000;

function emitOne(one: Work, around: Surroundings): string {
  switch (one.k) {
    case 'set':
      return `v[${one.slot}]=${emitExpression(one.value, around)};`;
    case 'if': {
      const no = one.no.length > 0 ? `else{${emitWork(one.no, around)}}` : '';
      return `if(${emitTest(one.condition, around)}){${emitWork(one.yes, around)}}${no}`;
    }
    case 'set element':
      return `v[${one.base}+X(${emitExpression(one.index, around)},${one.first},${one.count},${one.site})]=${emitExpression(one.value, around)};`;
    case 'loop':
      return `L${one.label}:for(;;){if(++B>${loopBudget})F(${one.site},'the loops of one hit do not end');${emitWork(one.body, around)}}`;
    case 'block':
      return `L${one.label}:{${emitWork(one.body, around)}}`;
    case 'leave':
      return `break L${one.label};`;
    case 'fail':
      return `F(${one.site},'too many messages wait');`;
    case 'mark':
      return `S.mark(${one.state},${one.entered});`;
    case 'settle':
      return `{let n=0;do{${emitWork(one.body, around)}if(++n>${one.limit})F(${one.site},'livelock: the chart does not come to rest within one hit')}while(v[${one.again}]!==0)}`;
  }
}

function emitStored(plan: Plan, around: Surroundings): string {
  const inputs = plan.inputs.map((input) => `v[${input.slot}]=${inputExpression(input, (slot) => `v[${slot}]`, 't')};`);
  const assignments = plan.assignments.map(({ slot, value }) => `v[${slot}]=${emitExpression(value, around)};`);
  return [...inputs, ...assignments].join('');
}

function emitDerivative(plan: Plan): string {
  const continuous = new Continuous(plan, writer);
  const states = plan.states.map(({ slot }, index) => `const y${slot}=x[${index}];`).join('');
  const body = `${continuous.load()}${continuous.steady()}${continuous.timed('', 't', 'const')}${states}${continuous.moving('', 't', false)}${continuous.derivatives((index) => `d[${index}]`, '', 't')}`;
  return continuous.temporaries.declaration() + body;
}

/**
 * Largest number of states whose four stages are inlined. The engine gives up optimising beyond some 60 KB of bytecode, and the code falls to a twentieth
 * of its speed; long before that, separate functions cost little, because there is much work in each call.
 */
const mostInlined = 40;

/** Runge–Kutta 4 over arrays, the derivative a function of its own: the same arithmetic in the same order as when it is inlined. */
function emitLargeAdvance({ states }: Plan): string {
  const count = states.length;
  const arrays = ['x', 'y', 'k', 'l', 'm', 'n'].map((name) => `${name}=new Float64Array(${count})`).join(',');
  return `advance:(function(){var ${arrays},z=new Int32Array([${states.map((state) => state.slot).join(',')}]);
return function(from,step,count,row){w[0]=from;w[1]=step;w[2]=2;const start=w[0],tick=w[1],two=w[2],h=tick/1e9,g=h/2,s=h/6;
for(let j=0;j<${count};j++)x[j]=v[z[j]];
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,b=t+g,e=(ns+tick)/1e9;
if(i>0){for(let j=0;j<${count};j++)v[z[j]]=x[j];O(t);W(t,row);row++}
G(t,x,k);for(let j=0;j<${count};j++)y[j]=x[j]+g*k[j];
G(b,y,l);for(let j=0;j<${count};j++)y[j]=x[j]+g*l[j];
G(b,y,m);for(let j=0;j<${count};j++)y[j]=x[j]+h*m[j];
G(e,y,n);let a=0;for(let j=0;j<${count};j++){x[j]=x[j]+s*(k[j]+two*l[j]+two*m[j]+n[j]);a+=x[j]}
if(!(Math.abs(a)<Infinity))break;}
for(let j=0;j<${count};j++)v[z[j]]=x[j];return row}})()`;
}

/**
 * What does not change during the call is computed before the loop; what depends on time alone is computed once for each of the
 * instants t, t + h/2 and t + h, and the last of them serves the next step; the rest is computed at each of the four stages.
 * Start and step pass through an array of doubles: small whole numbers would make the engine compile for integers first, and give that up at 2³¹ ns.
 */
function emitAdvance(plan: Plan): string {
  const continuous = new Continuous(plan, writer);
  const { states, logged } = plan;
  const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
  const stage = (number: number, at: 'a' | 'b' | 'c', state: (index: number) => string, after = ''): string => {
    const time = { a: 't', b: 'm', c: 'e' }[at];
    return `{${all((index, slot) => `const y${slot}=${state(index)};`)}${continuous.moving(at, time, number === 1)}${continuous.derivatives((index) => `k${number}_${index}`, at, time)}${after}}`;
  };
  const log = `if(i>0){C[row]=t;${logged.map((slot, index) => `C${index}[row]=${continuous.read(slot, 'a')};`).join('')}row++}`;
  const slopes = [1, 2, 3, 4].flatMap((number) => states.map((_, index) => `k${number}_${index}=0`));
  const body = `const C=c${logged.map((_, index) => `,C${index}=c${index}`).join('')};
${continuous.load()}${continuous.steady()}${all((index, slot) => `let x${index}=v[${slot}];`)}
${slopes.length > 0 ? `let ${slopes.join(',')};` : ''}
w[0]=from;w[1]=step;w[2]=2;const start=w[0],tick=w[1],two=w[2],h=tick/1e9,g=h/2,s=h/6;
${continuous.declareTimed('a')}{const t=start/1e9;${continuous.timed('a', 't', 'assign')}}
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,m=t+g,e=(ns+tick)/1e9;
${continuous.timed('b', 'm', 'const')}${continuous.timed('c', 'e', 'const')}
${stage(1, 'a', (index) => `x${index}`, log)}
${stage(2, 'b', (index) => `x${index}+g*k1_${index}`)}
${stage(3, 'b', (index) => `x${index}+g*k2_${index}`)}
${stage(4, 'c', (index) => `x${index}+h*k3_${index}`)}
${all((index) => `x${index}=x${index}+s*(k1_${index}+two*k2_${index}+two*k3_${index}+k4_${index});`)}
${continuous.carry('c', 'a')}
${states.length > 0 ? `if(!(Math.abs(${states.map((_, index) => `x${index}`).join('+')})<Infinity))break;` : ''}}
${all((index, slot) => `v[${slot}]=x${index};`)}return row`;
  return continuous.temporaries.declaration() + body;
}
