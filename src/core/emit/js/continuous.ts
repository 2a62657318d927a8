import type { Plan, SlotNumber } from '../../plan';
import { Continuous, inputExpression } from '../continuous';
import type { Surroundings } from '../surroundings';
import { emitExpression } from './expression';
import { writer } from './work';

/** Free inputs and assignments, stored into their slots. */
export function emitStored(plan: Pick<Plan, 'inputs' | 'assignments'>, around: Surroundings): string {
  const inputs = plan.inputs.map((input) => `v[${input.slot}]=${inputExpression(input, (slot) => `v[${slot}]`, 't')};`);
  const assignments = plan.assignments.map(({ slot, value }) => `v[${slot}]=${emitExpression(value, around)};`);
  return [...inputs, ...assignments].join('');
}

export function emitDerivative(plan: Plan): string {
  const continuous = new Continuous(plan, writer);
  const states = plan.states.map(({ slot }, index) => `const y${slot}=x[${index}];`).join('');
  const body = `${continuous.load()}${continuous.steady()}${continuous.timed('', 't', 'const')}${states}${continuous.moving('', 't', false)}${continuous.derivatives((index) => `d[${index}]`, '', 't')}`;
  return continuous.temporaries.declaration() + body;
}

/**
 * Largest number of states whose four stages are inlined. The engine gives up optimising beyond some 60 KB of bytecode, and the code falls to a twentieth
 * of its speed; long before that, separate functions cost little, because there is much work in each call.
 */
export const mostInlined = 40;

/** Runge–Kutta 4 over arrays, the derivative a function of its own: the same arithmetic in the same order as when it is inlined. */
export function emitLargeAdvance({ states }: Plan): string {
  const count = states.length;
  const arrays = ['x', 'y', 'k', 'l', 'm', 'n'].map((name) => `${name}=new Float64Array(${count})`).join(',');
  return `(function(){var ${arrays},z=new Int32Array([${states.map((state) => state.slot).join(',')}]);
return function(from,step,count,row){w[0]=from;w[1]=step;w[2]=2;const start=w[0],tick=w[1],two=w[2],h=tick/1e9,g=h/2,s=h/6;
for(let j=0;j<${count};j++)x[j]=v[z[j]];
for(let i=0;i<count;i++){const ns=start+i*tick,t=ns/1e9,b=t+g,e=(ns+tick)/1e9;
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
export function emitAdvance(plan: Plan): string {
  const continuous = new Continuous(plan, writer);
  const { states, logged } = plan;
  const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
  const stage = (number: number, at: 'a' | 'b' | 'c', state: (index: number) => string, after = ''): string => {
    const time = { a: 't', b: 'm', c: 'e' }[at];
    return `{${all((index, slot) => `const y${slot}=${state(index)};`)}${continuous.moving(at, time, number === 1)}${continuous.derivatives((index) => `k${number}_${index}`, at, time)}${after}}`;
  };
  const log = `if(i>0){let j=row;c[j]=t;${logged.map((slot) => `c[j+=r]=${continuous.read(slot, 'a')};`).join('')}row++}`;
  const slopes = [1, 2, 3, 4].flatMap((number) => states.map((_, index) => `k${number}_${index}=0`));
  const body = `${continuous.load()}${continuous.steady()}${all((index, slot) => `let x${index}=v[${slot}];`)}
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
${all((index, slot) => `v[${slot}]=x${index};`)}`;
  return continuous.temporaries.declaration() + body;
}
