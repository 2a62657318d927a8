import { type Numeric, numeric } from '../../numeric';
import type { FreeInput, Node, Plan, SlotNumber, Work } from '../../plan';
import { slotsRead } from '../../plan';
import { emitExpression, prelude, type Surroundings } from './expression';

/** A run-time error inside emitted code: which site of the plan, and what happened. */
export class RunFault extends Error {
  constructor(
    readonly site: number,
    readonly what: string,
  ) {
    super(what);
  }
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
  /** Values of further expressions (waits of a script, start values), by their index. */
  readonly values: readonly ((seconds: number) => number)[];
}

type Factory = (N: Numeric, F: (site: number, what: string) => never, mark: (state: number, entered: boolean) => void) => Program;

/**
 * Compiles a plan to JavaScript, specialised: states and intermediate values live in local variables and the four evaluations of
 * Runge–Kutta 4 are inlined (docs/decisions/emitted-code.md). Needs a context that allows evaluation.
 * @param extra further expressions to evaluate on the same slots
 * @param mark called when a chart's state is entered or left
 */
export function compileProgram(plan: Plan, extra: readonly Node[], mark: (state: number, entered: boolean) => void): Program {
  const factory = new Function('N', 'F', 'mark', emitProgram(plan, extra)) as Factory;
  const fail = (site: number, what: string): never => {
    throw new RunFault(site, what);
  };
  const program = factory(numeric, fail, mark);
  plan.slots.forEach((slot, index) => {
    program.slots[index] = slot.start;
  });
  return program;
}

/** The text of the program: the body of a function of the numeric library, the failure and the mark. */
export function emitProgram(plan: Plan, extra: readonly Node[]): string {
  const columns = plan.logged.map((_, index) => `c${index}`);
  return `"use strict";${prelude}
var v=new Float64Array(${plan.slots.length});
var c=null${columns.map((name) => `,${name}=null`).join('')};
return {slots:v,
outputs:function(t){${emitStored(plan)}},
derivative:function(t,x,d){${emitDerivative(plan)}},
advance:function(from,step,count,row){${emitAdvance(plan)}},
tasks:[${plan.tasks.map((task) => `function(hit){${emitWork(task.work)}}`).join(',\n')}],
logRow:function(t,row){c[row]=t;${plan.logged.map((slot, index) => `c${index}[row]=v[${slot}];`).join('')}},
sameRows:function(row){return ${plan.logged.map((_, index) => `c${index}[row]===c${index}[row-1]`).join('&&') || 'true'}},
bind:function(a){c=a[0];${columns.map((name, index) => `${name}=a[${index + 1}];`).join('')}},
values:[${extra.map((node) => `function(t){return ${emitExpression(node, fromSlots)}}`).join(',\n')}]}`;
}

const fromSlots: Surroundings = { slot: (slot) => `v[${slot}]`, time: 't', hit: 'hit' };

function emitWork(work: readonly Work[]): string {
  return work
    .map((one): string => {
      switch (one.k) {
        case 'set':
          return `v[${one.slot}]=${emitExpression(one.value, fromSlots)};`;
        case 'if': {
          const no = one.no.length > 0 ? `else{${emitWork(one.no)}}` : '';
          return `if(${emitExpression(one.condition, fromSlots)}!==0){${emitWork(one.yes)}}${no}`;
        }
        case 'mark':
          return `mark(${one.state},${one.entered});`;
        case 'settle':
          return `{let n=0;do{${emitWork(one.body)}if(++n>${one.limit})F(${one.site},'livelock: the chart does not come to rest within one hit')}while(v[${one.again}]!==0)}`;
      }
    })
    .join('');
}

function inputExpression(input: FreeInput, read: (slot: SlotNumber) => string, time: string): string {
  if (input.slope === undefined || input.since === undefined) return read(input.base);
  return `${read(input.base)}+${read(input.slope)}*(${time}-${read(input.since)})`;
}

function emitStored(plan: Plan): string {
  const inputs = plan.inputs.map((input) => `v[${input.slot}]=${inputExpression(input, (slot) => `v[${slot}]`, 't')};`);
  const assignments = plan.assignments.map(({ slot, value }) => `v[${slot}]=${emitExpression(value, fromSlots)};`);
  return [...inputs, ...assignments].join('');
}

/** What the continuous right-hand side computes from: which slots are states, free inputs, intermediate values, or held from outside. */
class Continuous {
  readonly held: SlotNumber[];
  private readonly own: Set<SlotNumber>;

  constructor(readonly plan: Plan) {
    const states = plan.states.map((state) => state.slot);
    this.own = new Set([...states, ...plan.inputs.map((input) => input.slot), ...plan.assignments.map((one) => one.slot)]);
    const read = new Set<SlotNumber>();
    for (const { value } of plan.assignments) slotsRead(value, read);
    for (const { derivative } of plan.states) slotsRead(derivative, read);
    const inputs = plan.inputs.flatMap((input) => [input.base, input.slope, input.since]).filter((slot) => slot !== undefined);
    this.held = [...new Set([...read, ...inputs])].filter((slot) => !this.own.has(slot));
  }

  /** Loads what stays constant during a step into local constants. */
  load(): string {
    return this.held.map((slot) => `const h${slot}=v[${slot}];`).join('');
  }

  around(time: string): Surroundings {
    return { slot: (slot) => (this.own.has(slot) ? `y${slot}` : `h${slot}`), time, hit: '0' };
  }

  /** Free inputs and intermediate values as local constants y<slot>; states must already be there. */
  algebra(time: string): string {
    const inputs = this.plan.inputs.map((input) => `const y${input.slot}=${inputExpression(input, (slot) => `h${slot}`, time)};`);
    const assignments = this.plan.assignments.map(({ slot, value }) => `const y${slot}=${emitExpression(value, this.around(time))};`);
    return [...inputs, ...assignments].join('');
  }

  derivatives(target: (index: number) => string, time: string): string {
    return this.plan.states.map(({ derivative }, index) => `${target(index)}=${emitExpression(derivative, this.around(time))};`).join('');
  }
}

function emitDerivative(plan: Plan): string {
  const continuous = new Continuous(plan);
  const states = plan.states.map(({ slot }, index) => `const y${slot}=x[${index}];`).join('');
  return `${continuous.load()}${states}${continuous.algebra('t')}${continuous.derivatives((index) => `d[${index}]`, 't')}`;
}

function emitAdvance(plan: Plan): string {
  const continuous = new Continuous(plan);
  const { states } = plan;
  const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
  const stage = (number: number, time: string, state: (index: number) => string, after = ''): string =>
    `{${all((index, slot) => `const y${slot}=${state(index)};`)}${continuous.algebra(time)}${continuous.derivatives((index) => `k${number}_${index}`, time)}${after}}`;
  const own = new Set([...states.map((state) => state.slot), ...plan.inputs.map((input) => input.slot), ...plan.assignments.map((one) => one.slot)]);
  const log = `if(i>0){c[row]=t;${plan.logged.map((slot, index) => `c${index}[row]=${own.has(slot) ? `y${slot}` : `v[${slot}]`};`).join('')}row++}`;
  const variables = [1, 2, 3, 4].flatMap((number) => states.map((_, index) => `k${number}_${index}=0`));
  return `${continuous.load()}${all((index, slot) => `let x${index}=v[${slot}];`)}
${variables.length > 0 ? `let ${variables.join(',')};` : ''}
const h=step/1e9,g=h/2,s=h/6;
for(let i=0;i<count;i++){const ns=from+i*step,t=ns/1e9,m=t+g,e=(ns+step)/1e9;
${stage(1, 't', (index) => `x${index}`, log)}
${stage(2, 'm', (index) => `x${index}+g*k1_${index}`)}
${stage(3, 'm', (index) => `x${index}+g*k2_${index}`)}
${stage(4, 'e', (index) => `x${index}+h*k3_${index}`)}
${all((index) => `x${index}=x${index}+s*(k1_${index}+2*k2_${index}+2*k3_${index}+k4_${index});`)}
${states.length > 0 ? `if(!(Math.abs(${states.map((_, index) => `x${index}`).join('+')})<Infinity))break;` : ''}}
${all((index, slot) => `v[${slot}]=x${index};`)}return row`;
}
