import { Continuous, inputExpression, type Sorted, type Surroundings } from '@/core/emit';
import { isFixed, type Plan, type SlotNumber } from '@/core/plan';
import { emitExpression } from './expression';
import type { ShortColumns } from './shortColumns';
import { writer } from './work';

/** Free inputs and assignments, stored into their slots. What follows from one of them reads a local variable: memory just written is read late. */
export function emitStored(plan: Pick<Plan, 'inputs' | 'assignments'>, around: Surroundings): string {
  const known = new Set<SlotNumber>();
  const wanted = new Set<SlotNumber>();
  const slot = (one: SlotNumber): string => {
    if (!known.has(one)) return around.slot(one);
    wanted.add(one);
    return `z${one}`;
  };
  const within = { ...around, slot };
  const stores: { readonly into: SlotNumber; readonly value: string }[] = [];
  const store = (into: SlotNumber, value: string): void => {
    stores.push({ into, value });
    known.add(into);
  };
  for (const input of plan.inputs) store(input.slot, inputExpression(input, slot, 't'));
  for (const { slot: into, value } of plan.assignments) store(into, emitExpression(value, within));
  return stores.map(({ into, value }) => (wanted.has(into) ? `const z${into}=${value};v[${into}]=z${into};` : `v[${into}]=${value};`)).join('');
}

export function emitDerivative(sorted: Sorted): string {
  const continuous = new Continuous(sorted, writer);
  const states = sorted.plan.states.map(({ slot }, index) => `const y${slot}=x[${index}];`).join('');
  const body = `${continuous.load()}${continuous.steady()}${continuous.timed('', 't', 'const')}${states}${continuous.moving('', 't', 'derivatives')}${continuous.derivatives((index) => `d[${index}]`, '', 't')}`;
  return continuous.temporaries.declaration() + body;
}

/**
 * Largest number of states whose four stages are inlined. The engine gives up optimising beyond some 60 KB of bytecode, and the code falls to a twentieth
 * of its speed; long before that, separate functions cost little, because there is much work in each call.
 */
export const mostInlined = 40;

/** Notes which step is under way, and the rows written before it: an error inside is told at its time, and the trace goes as far as the run did. */
export function underWay(ns: string): string {
  return `K[3]=${ns};K[1]=row;`;
}

/** A fixed step over arrays, the derivative a function of its own; methods of variable step work on the arrays themselves and have none. */
export function advanceOverArrays(plan: Plan): string {
  const { method } = plan.solver;
  if (method === 'runge-kutta-4') return emitLargeAdvance(plan);
  return isFixed(method) ? emitLowAdvance(plan, method) : 'null';
}

/** Euler's method, and Heun's of order 2 (K. Heun 1900: the mean of the slopes at both ends). */
function emitLowAdvance({ states }: Plan, method: 'euler' | 'heun'): string {
  const count = states.length;
  const second = method === 'heun' ? `for(let j=0;j<${count};j++)y[j]=x[j]+h*k[j];G(e,y,l);` : '';
  const slope = method === 'heun' ? '(k[j]+l[j])/2' : 'k[j]';
  return `(function(){var ${['x', 'y', 'k', 'l'].map((name) => `${name}=new Float64Array(${count})`).join(',')},z=new Int32Array([${states.map((state) => state.slot).join(',')}]);
return function(from,step,count,row){w[0]=from;w[1]=step;const start=w[0],tick=w[1],h=tick/1e9;
for(let j=0;j<${count};j++)x[j]=v[z[j]];
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,e=(ns+tick)/1e9;${underWay('ns')}
if(i>0){for(let j=0;j<${count};j++)v[z[j]]=x[j];O(t);C(row,t);row++}
G(t,x,k);${second}
let a=0;for(let j=0;j<${count};j++){x[j]+=h*${slope};a+=x[j]}
if(!(Math.abs(a)<Infinity))break;}
for(let j=0;j<${count};j++)v[z[j]]=x[j];return row}})()`;
}

/** Runge–Kutta 4 over arrays: the same arithmetic in the same order as when it is inlined. */
function emitLargeAdvance({ states }: Plan): string {
  const count = states.length;
  const arrays = ['x', 'y', 'k', 'l', 'm', 'n'].map((name) => `${name}=new Float64Array(${count})`).join(',');
  return `(function(){var ${arrays},z=new Int32Array([${states.map((state) => state.slot).join(',')}]);
return function(from,step,count,row){w[0]=from;w[1]=step;w[2]=2;const start=w[0],tick=w[1],two=w[2],h=tick/1e9,g=h/2,s=h/6;
for(let j=0;j<${count};j++)x[j]=v[z[j]];
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,b=t+g,e=(ns+tick)/1e9;${underWay('ns')}
if(i>0){for(let j=0;j<${count};j++)v[z[j]]=x[j];O(t);C(row,t);row++}
G(t,x,k);for(let j=0;j<${count};j++)y[j]=x[j]+g*k[j];
G(b,y,l);for(let j=0;j<${count};j++)y[j]=x[j]+g*l[j];
G(b,y,m);for(let j=0;j<${count};j++)y[j]=x[j]+h*m[j];
G(e,y,n);let a=0;for(let j=0;j<${count};j++){x[j]=x[j]+s*(k[j]+two*l[j]+two*m[j]+n[j]);a+=x[j]}
if(!(Math.abs(a)<Infinity))break;}
for(let j=0;j<${count};j++)v[z[j]]=x[j];return row}})()`;
}

/**
 * The body of `advance`: `count` steps from `from` on (ns), with the next free row in `row`. What does not change during the call is computed before the loop; what depends on time alone is computed once for each of the
 * instants t, t + h/2 and t + h, and the last of them serves the next step; the rest is computed at each of the four stages.
 * Start and step pass through an array of doubles: small whole numbers would make the engine compile for integers first, and give that up at 2³¹ ns.
 */
export function emitAdvance({ before, step, after, declared }: Steps): string {
  return declared(`${before}
w[0]=from;w[1]=step;w[2]=2;const start=w[0],tick=w[1],two=w[2],h=tick/1e9,g=h/2,s=h/6;
${step.declared}${step.first('start/1e9')}
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,m=t+g,e=(ns+tick)/1e9;${underWay('ns')}
${step.body('i>0', 'two')}
${step.check}}
${after}`);
}

function stepLengths({ solver }: Plan): string {
  const h = solver.stepNs / 1e9;
  return `const h=${h},g=${h / 2},s=${h / 6};`;
}

/** The same from `now` to `next`, where every stretch between hits has so many steps: no count, length or division is left that can be known before. */
export function emitSteadyAdvance(plan: Plan, { before, step, after, declared }: Steps, count: number): string {
  const body =
    count === 1
      ? `{const t=now/1e9,m=t+g,e=next/1e9;${underWay('now')}${step.body('', '2')}}`
      : `let ns=now;for(let i=0;i<${count};i++){const t=ns/1e9,m=t+g,e=(ns+${plan.solver.stepNs})/1e9;${underWay('ns')}
${step.body('i>0', '2')}
ns+=${plan.solver.stepNs};${step.check}}`;
  return declared(`${before}${stepLengths(plan)}${step.declared}${step.first('now/1e9')}
${body}
${after}`);
}

/**
 * One such step from `ns` on, as a function's body; `inner` where it is not the first after a hit: what time alone decides is then known from the end of the step before,
 * in the array `$w`. It has no loop: a function that is called for a few rounds only may be compiled for its loop alone, and then stays slow whenever it is entered.
 */
export function emitOneStep(plan: Plan, { before, step, after, declared, timed }: Steps): string {
  const known = timed.map((slot, index) => `w${slot}a=$w[${index}];`).join('');
  const kept = timed.map((slot, index) => `$w[${index}]=w${slot}c;`).join('');
  return declared(`${before}${stepLengths(plan)}const t=ns/1e9,m=t+g,e=(ns+${plan.solver.stepNs})/1e9;
${step.declared}if(inner){${known}}else{${step.first('ns/1e9')}}
${step.body('inner', '2')}
${kept}${after}return row`);
}

export interface Steps {
  /** A text of the pieces, with the local variables they need before it. */
  declared(text: string): string;
  readonly before: string;
  readonly step: {
    /** What time alone decides at the instants of a step: its variables, and their values at the first. */
    readonly declared: string;
    first(time: string): string;
    /**
     * @param logged when the row before the step is written; never if empty
     * @param two what stands for the number two
     */
    body(logged: string, two: string): string;
    readonly check: string;
  };
  readonly after: string;
  /** Slots that depend on time alone. */
  readonly timed: readonly SlotNumber[];
}

/** The pieces of a step, for the functions that take steps: most of the text of a plan, written once. */
export function stepsOf(sorted: Sorted, log: ShortColumns): Steps {
  const continuous = new Continuous(sorted, writer);
  const { states } = sorted.plan;
  const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
  const stage = (at: 'a' | 'b' | 'c', state: (index: number) => string): string => {
    const time = { a: 't', b: 'm', c: 'e' }[at];
    return `${all((index, slot) => `const y${slot}=${state(index)};`)}${continuous.moving(at, time, 'derivatives')}${continuous.derivatives((index) => `k${index}`, at, time)}`;
  };
  const row = `${continuous.moving('a', 't', 'log only')}${log.row('t', (slot) => continuous.read(slot, 'a'))}row++`;
  const slopes = states.map((_, index) => `k${index}=0,m${index}=0`);
  const timed = `${continuous.timed('b', 'm', 'const')}${continuous.timed('c', 'e', 'const')}`;
  const first = `${stage('a', (index) => `x${index}`)}${all((index) => `m${index}=k${index};`)}`;
  const second = stage('b', (index) => `x${index}+g*k${index}`);
  const last = stage('c', (index) => `x${index}+h*k${index}`);
  const body = (logged: string, two: string): string => {
    // The second and third evaluation are the same text; slopes are summed up as they come, since the engine keeps few values at hand.
    const middle = `{${second}${all((index) => `m${index}=m${index}+${two}*k${index};`)}}`;
    return `${timed}
{${first}${logged === '' ? '' : `if(${logged}){${row}}`}}
${middle}
${middle}
{${last}}
${all((index) => `x${index}=x${index}+s*(m${index}+k${index});`)}
${continuous.carry('c', 'a')}`;
  };
  const before = `${continuous.load()}${continuous.steady()}${all((index, slot) => `let x${index}=v[${slot}];`)}
${slopes.length > 0 ? `let ${slopes.join(',')};` : ''}`;
  return {
    declared: (text) => continuous.temporaries.declaration() + text,
    before,
    step: {
      declared: continuous.declareTimed('a'),
      first: (time) => `{const t=${time};${continuous.timed('a', 't', 'assign')}}`,
      body,
      check: states.length > 0 ? `if(!(Math.abs(${states.map((_, index) => `x${index}`).join('+')})<Infinity))break;` : '',
    },
    after: all((index, slot) => `v[${slot}]=x${index};`),
    timed: continuous.timedSlots(),
  };
}
