import { type Numeric, numeric } from '../../numeric';
import type { Node, Plan, SlotNumber, Work } from '../../plan';
import { Continuous, inputExpression } from './continuous';
import { emitExpression, emitTest, prelude, type Surroundings } from './expression';

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
  return `"use strict";${prelude}
var v=new Float64Array(${plan.slots.length});
var S=null,c=null${columns.map((name) => `,${name}=null`).join('')};
return {slots:v,
outputs:function(t){${emitStored(plan)}},
derivative:function(t,x,d){${emitDerivative(plan)}},
advance:function(from,step,count,row){${emitAdvance(plan)}},
tasks:[${plan.tasks.map((task) => `function(hit){${emitWork(task.work)}}`).join(',\n')}],
logRow:function(t,row){c[row]=t;${plan.logged.map((slot, index) => `c${index}[row]=v[${slot}];`).join('')}},
sameRows:function(row){return ${plan.logged.map((_, index) => `c${index}[row]===c${index}[row-1]`).join('&&') || 'true'}},
bind:function(a){c=a[0];${columns.map((name, index) => `${name}=a[${index + 1}];`).join('')}},
listen:function(s){S=s},
values:[${extra.map((node) => `function(t){return ${emitExpression(node, fromSlots)}}`).join(',\n')}]}`;
}

const fromSlots: Surroundings = { slot: (slot) => `v[${slot}]`, time: 't', hit: 'hit' };

function emitWork(work: readonly Work[]): string {
  return work.map(emitOne).join('');
}

function emitOne(one: Work): string {
  switch (one.k) {
    case 'set':
      return `v[${one.slot}]=${emitExpression(one.value, fromSlots)};`;
    case 'if': {
      const no = one.no.length > 0 ? `else{${emitWork(one.no)}}` : '';
      return `if(${emitTest(one.condition, fromSlots)}){${emitWork(one.yes)}}${no}`;
    }
    case 'mark':
      return `S.mark(${one.state},${one.entered});`;
    case 'settle':
      return `{let n=0;do{${emitWork(one.body)}if(++n>${one.limit})F(${one.site},'livelock: the chart does not come to rest within one hit')}while(v[${one.again}]!==0)}`;
  }
}

function emitStored(plan: Plan): string {
  const inputs = plan.inputs.map((input) => `v[${input.slot}]=${inputExpression(input, (slot) => `v[${slot}]`, 't')};`);
  const assignments = plan.assignments.map(({ slot, value }) => `v[${slot}]=${emitExpression(value, fromSlots)};`);
  return [...inputs, ...assignments].join('');
}

function emitDerivative(plan: Plan): string {
  const continuous = new Continuous(plan);
  const states = plan.states.map(({ slot }, index) => `const y${slot}=x[${index}];`).join('');
  return `${continuous.load()}${continuous.steady()}${continuous.timed('', 't', 'const')}${states}${continuous.moving('', 't')}${continuous.derivatives((index) => `d[${index}]`, '', 't')}`;
}

/**
 * What does not change during the call is computed before the loop; what depends on time alone is computed once for each of the
 * instants t, t + h/2 and t + h, and the last of them serves the next step; the rest is computed at each of the four stages.
 */
function emitAdvance(plan: Plan): string {
  const continuous = new Continuous(plan);
  const { states, logged } = plan;
  const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
  const stage = (number: number, at: 'a' | 'b' | 'c', state: (index: number) => string, after = ''): string => {
    const time = { a: 't', b: 'm', c: 'e' }[at];
    return `{${all((index, slot) => `const y${slot}=${state(index)};`)}${continuous.moving(at, time)}${continuous.derivatives((index) => `k${number}_${index}`, at, time)}${after}}`;
  };
  const log = `if(i>0){C[row]=t;${logged.map((slot, index) => `C${index}[row]=${continuous.read(slot, 'a')};`).join('')}row++}`;
  const slopes = [1, 2, 3, 4].flatMap((number) => states.map((_, index) => `k${number}_${index}=0`));
  return `const C=c${logged.map((_, index) => `,C${index}=c${index}`).join('')};
${continuous.load()}${continuous.steady()}${all((index, slot) => `let x${index}=v[${slot}];`)}
${slopes.length > 0 ? `let ${slopes.join(',')};` : ''}
const h=step/1e9,g=h/2,s=h/6;
${continuous.declareTimed('a')}{const t=from/1e9;${continuous.timed('a', 't', 'assign')}}
for(let i=0;i<count;i++){const ns=from+i*step,t=ns/1e9,m=t+g,e=(ns+step)/1e9;
${continuous.timed('b', 'm', 'const')}${continuous.timed('c', 'e', 'const')}
${stage(1, 'a', (index) => `x${index}`, log)}
${stage(2, 'b', (index) => `x${index}+g*k1_${index}`)}
${stage(3, 'b', (index) => `x${index}+g*k2_${index}`)}
${stage(4, 'c', (index) => `x${index}+h*k3_${index}`)}
${all((index) => `x${index}=x${index}+s*(k1_${index}+2*k2_${index}+2*k3_${index}+k4_${index});`)}
${continuous.carry('c', 'a')}
${states.length > 0 ? `if(!(Math.abs(${states.map((_, index) => `x${index}`).join('+')})<Infinity))break;` : ''}}
${all((index, slot) => `v[${slot}]=x${index};`)}return row`;
}
