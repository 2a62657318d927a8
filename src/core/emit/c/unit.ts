import { Continuous, inputExpression, Sorted, type Surroundings, type Writer } from '@/core/emit';
import { printDuration } from '@/core/language';
import {
  type FixedMethod,
  integerRange,
  isFixed,
  mostMarks,
  type Node,
  type NumericFunction,
  nodesOf,
  numericFunctions,
  operandsOf,
  type Plan,
  type PlanFunction,
  type SiteNumber,
  type SlotNumber,
  type Work,
} from '@/core/plan';
import { emitC, library } from './expression';
import { Fields, types } from './fields';
import { laidOut } from './layout';

/** A plan as C99: a header and a source, and the functions of the numeric library they call. */
export interface CUnit {
  readonly header: string;
  readonly source: string;
  readonly calls: readonly (NumericFunction | '**')[];
  /** The places in the user's text that lines of the source stand for, by the number of the line. */
  readonly places: ReadonlyMap<number, SiteNumber>;
  /** How a program reads a slot, and writes it, through `access` (`s->` or `s.`). */
  slot(slot: SlotNumber, access: string): string;
  store(slot: SlotNumber, value: string, access: string): string;
}

/** Passes through loops that one hit of a task may take, as in emit/js. */
const loopBudget = 1_000_000;

/**
 * Emits a plan as C99 without heap: a struct that holds every value, `init`, `outputs`, `advance` (the method of fixed step of the loop, Runge–Kutta 4 where it has another) and one function per task.
 * Compiled with contraction off it gives the very bits of the emitted JavaScript. A run-time error is kept in `fault` (number of its site + 1).
 * @param name prefix of all names; letters, digits and underscores
 * @param marking keep which states were entered and left, and which messages sent, in `marks`: at most 256 since `marked` was set to 0
 * @throws RangeError for located events, which a fixed step cannot find, and for dead times of continuous values
 */
export function emitCUnit(plan: Plan, name: string, marking = false): CUnit {
  const [event] = plan.crossings;
  if (event)
    throw new RangeError(`the located event "${plan.sites[event.site]?.text ?? ''}" has no counterpart in C; let a sampled component ask for it`);
  const [late] = plan.delays ?? [];
  if (late) throw new RangeError(`the dead time ${plan.slots[late.slot]?.name ?? ''} has no counterpart in C; let a sampled component have it`);
  return new Unit(plan, name, marking).emit();
}

/** Where the stages of a method of fixed step stand (a at the beginning, b in the middle, c at the end), from which slope they start, and how the step ends. Steps: h, g = h/2, w = h/6. */
const schemes: Readonly<
  Record<
    FixedMethod,
    { readonly stages: readonly { readonly at: 'a' | 'b' | 'c'; readonly from: string }[]; readonly onwards: (state: number) => string }
  >
> = {
  euler: { stages: [{ at: 'a', from: '' }], onwards: (index) => `h*k1_${index}` },
  heun: {
    stages: [
      { at: 'a', from: '' },
      { at: 'c', from: 'h*k1' },
    ],
    onwards: (index) => `h*((k1_${index}+k2_${index})/2)`,
  },
  'runge-kutta-4': {
    stages: [
      { at: 'a', from: '' },
      { at: 'b', from: 'g*k1' },
      { at: 'b', from: 'g*k2' },
      { at: 'c', from: 'h*k3' },
    ],
    onwards: (index) => `w*(k1_${index}+2*k2_${index}+2*k3_${index}+k4_${index})`,
  },
};

class Unit {
  private readonly fields: Fields;
  /** Labels of the plan as they are written just now. */
  private readonly labels = new Map<number, number>();
  private lastLabel = 0;
  private readonly writer: Writer;
  private readonly fromSlots: Surroundings;

  constructor(
    private readonly plan: Plan,
    private readonly name: string,
    private readonly marking: boolean,
  ) {
    this.fields = new Fields(plan);
    const slot = (one: SlotNumber): string => this.read(one);
    this.writer = { expression: emitC, constant: 'const double ', variable: 'double ', slot };
    this.fromSlots = { slot, time: 't', hit: 'hit', place: (one) => `&${this.field(one)}` };
  }

  private field(slot: SlotNumber): string {
    return `s->${this.fields.place(slot)}`;
  }

  /** All arithmetic is of doubles, whatever a field is kept as. */
  private read(slot: SlotNumber): string {
    return this.fields.typeOf(slot) === 'LREAL' ? this.field(slot) : `(double)${this.field(slot)}`;
  }

  private store(slot: SlotNumber, text: string): string {
    const type = this.fields.typeOf(slot);
    return `${this.field(slot)} = ${type === 'LREAL' ? text : `(${types[type]})${inParentheses(text)}`};`;
  }

  /** A value that is written in the model, as one would write it in C. */
  private storeConstant(slot: SlotNumber, value: number): string {
    const type = this.fields.typeOf(slot);
    const { enumeration } = this.plan.slots[slot] ?? {};
    const named = enumeration?.name ? enumeration.values[value] : undefined;
    if (named !== undefined) return `${this.field(slot)} = ${this.name}_${enumeration?.name}_${named};`;
    if (type === 'BOOL') return `${this.field(slot)} = ${value !== 0};`;
    return integerRange[type] ? `${this.field(slot)} = ${value};` : this.store(slot, constant(value));
  }

  emit(): CUnit {
    const { plan, name } = this;
    const guard = `OVRAND_${name.toUpperCase()}_H`;
    const tasks = plan.tasks.map(
      (task, index) =>
        `/* ${task.component.replace(/\*\//g, '')}, every ${printDuration(task.periodNs)} from ${printDuration(task.offsetNs)} on */\n#define ${name}_task${index}_period_ns ${task.periodNs}LL\n#define ${name}_task${index}_offset_ns ${task.offsetNs}LL\nvoid ${name}_task${index}(${name}_t *s, double hit);`,
    );
    const order = plan.tasks.length > 1 ? ` Of several that are due at one instant: ${plan.tasks.map((_, index) => `task${index}`).join(', ')}.` : '';
    const header = `/* Made by Ovrand. Do not edit: change the model. */
#ifndef ${guard}
#define ${guard}
#include <stdbool.h>
#include <stdint.h>

${this.fields.enumerations(name)}typedef struct {
${this.fields.declarations()}
  int32_t fault; /* 0, or the site of the first run-time error + 1 */${this.marking ? `\n  int32_t marked;\n  int32_t marks[${mostMarks}];` : ''}
} ${name}_t;

/* Start values of everything. Call it first; parameters and inputs may be changed afterwards. */
void ${name}_init(${name}_t *s);
/* Start values of the states, which may follow from parameters. Call it once before the first instant. */
void ${name}_start(${name}_t *s);
/* Takes the inputs over, and works out the continuous values, at time t (s). Call it at each instant before the tasks that are due. */
void ${name}_outputs(${name}_t *s, double t);
${this.hasSlopes ? `/* Continuous values and the slopes of the states at time t (s). */\nvoid ${name}_slopes(${name}_t *s, double t, double *k);\n` : ''}/* Runge-Kutta 4: count steps of step ns from from ns on; log[0] takes times, the others the logged values, or log is null. Gives the next free row. */
long ${name}_advance(${name}_t *s, double from, double step, long count, double *const *log, long row);
/* One row of the log. */
void ${name}_log(const ${name}_t *s, double t, double *const *log, long row);

/* The tasks, each to be called when it is due, with the number of its hit from 0 on.${order} */
${tasks.join('\n')}
#endif
`;
    const body = [
      ...plan.functions.map((one, index) => this.function(one, index)),
      `void ${name}_init(${name}_t *s){memset(s,0,sizeof *s);${plan.slots.map((slot, number) => (slot.start === 0 ? '' : this.storeConstant(number, slot.start))).join('\n')}}`,
      `void ${name}_start(${name}_t *s){const double t=0.0;const double hit=0.0;(void)t;(void)hit;(void)s;${plan.states.map(({ slot, start }) => this.store(slot, emitC(start, this.fromSlots))).join('\n')}}`,
      `void ${name}_outputs(${name}_t *s, double t){(void)s;(void)t;${this.outputs()}}`,
      ...(this.hasSlopes ? [`void ${name}_slopes(${name}_t *s, double t, double *k){${this.slopes()}}`] : []),
      `long ${name}_advance(${name}_t *s, double from, double step, long count, double *const *log, long row){${this.advance()}}`,
      `void ${name}_log(const ${name}_t *s, double t, double *const *log, long row){(void)s;log[0][row]=t;${plan.logged.map((slot, index) => `log[${index + 1}][row]=${this.read(slot)};`).join('')}}`,
      ...plan.tasks.map((task, index) => {
        const work = this.work(task.work);
        return `void ${name}_task${index}(${name}_t *s, double hit){long budget=0;(void)budget;(void)hit;${work}}`;
      }),
    ];
    const calls = callsOf(plan);
    return {
      header,
      ...placed(`${prelude(name, calls)}${this.marking ? marker(name) : ''}\n${laidOut(body.join('\n\n'))}\n`),
      calls,
      slot: (slot, access) => this.read(slot).replace('s->', access),
      store: (slot, value, access) => this.store(slot, value).replace('s->', access),
    };
  }

  private outputs(): string {
    const { plan, fromSlots } = this;
    const inputs = plan.inputs.map((input) =>
      this.store(
        input.slot,
        inputExpression(input, (slot) => this.read(slot), 't'),
      ),
    );
    return [...inputs, ...plan.assignments.map(({ slot, value }) => this.store(slot, emitC(value, fromSlots)))].join('\n');
  }

  /** A method of variable step, which stands outside, asks for slopes. */
  private get hasSlopes(): boolean {
    return !isFixed(this.plan.solver.method) && this.plan.states.length > 0;
  }

  private slopes(): string {
    const { plan, fromSlots } = this;
    return [this.outputs(), ...plan.states.map(({ derivative }, index) => `k[${index}]=${emitC(derivative, fromSlots)};`)].join('\n');
  }

  /** The same arithmetic in the same order as in emit/js. A method of variable step has no counterpart here: Runge–Kutta 4 stands in for it. */
  private advance(): string {
    const { plan } = this;
    const continuous = new Continuous(new Sorted(plan), this.writer);
    const { states, logged } = plan;
    const all = (piece: (index: number, slot: SlotNumber) => string): string => states.map((state, index) => piece(index, state.slot)).join('');
    const stage = (number: number, at: 'a' | 'b' | 'c', state: (index: number) => string, after = ''): string => {
      const time = { a: 't', b: 'm', c: 'e' }[at];
      const values = `${continuous.moving(at, time, 'derivatives')}${continuous.derivatives((index) => `k${number}_${index}`, at, time)}`;
      return `{${all((index, slot) => `const double y${slot}=${state(index)};`)}${values}${after}}`;
    };
    const log = `if(i>0&&log){${continuous.moving('a', 't', 'log only')}log[0][row]=t;${logged.map((slot, index) => `log[${index + 1}][row]=${continuous.read(slot, 'a')};`).join('')}row++;}`;
    const { stages, onwards } = schemes[isFixed(plan.solver.method) ? plan.solver.method : 'runge-kutta-4'];
    const slopes = stages.flatMap((_, number) => states.map((__, index) => `k${number + 1}_${index}=0`));
    const finite = states.length > 0 ? `if(!(fabs(${states.map((_, index) => `x${index}`).join('+')})<INFINITY))break;` : '';
    return `
${continuous.load()}${continuous.steady()}${all((index, slot) => `double x${index}=${this.read(slot)};`)}
${slopes.length > 0 ? `double ${slopes.join(',')};` : ''}
const double h=step/1e9,g=h/2,w=h/6;(void)g;(void)w;(void)s;(void)log;
${continuous.declareTimed('a')}{const double t=from/1e9;(void)t;${continuous.timed('a', 't', 'assign')}}
for(long i=0;i<count;i++){const double ns=from+(double)i*step,t=ns/1e9,m=t+g,e=(ns+step)/1e9;(void)t;(void)m;(void)e;
${continuous.timed('b', 'm', 'const')}${continuous.timed('c', 'e', 'const')}
${stages.map(({ at, from }, number) => stage(number + 1, at, (index) => `x${index}${from && `+${from}_${index}`}`, number === 0 ? log : '')).join('\n')}
${all((index) => `x${index}=x${index}+${onwards(index)};`)}
${continuous.carry('c', 'a')}
${finite}}
${all((index, slot) => `${this.field(slot)}=x${index};`)}return row;`;
  }

  private function({ name, operands, locals, result, work }: PlanFunction, index: number): string {
    const taken = operands.map((slot, operand) => this.store(slot, `a${operand}`)).join('');
    const begun = locals.map((slot) => this.store(slot, constant(this.plan.slots[slot]?.start ?? 0))).join('');
    const head = `/* ${name.replace(/\*\//g, '')} */\nstatic double f${index}(${this.name}_t *s${operands.map((_, operand) => `,double a${operand}`).join('')})`;
    return `${head}{long budget=0;(void)budget;${taken}${begun}${this.work(work)}return ${this.read(result)};}`;
  }

  private work(work: readonly Work[]): string {
    return work.map((one) => `${placeMark(siteIn(one))}${this.one(one)}`).join('\n');
  }

  private one(one: Work): string {
    const expression = (node: Node): string => emitC(node, this.fromSlots);
    switch (one.k) {
      case 'set':
        return one.value.k === 'const' ? this.storeConstant(one.slot, one.value.value) : this.store(one.slot, expression(one.value));
      case 'set element': {
        const type = types[this.fields.typeOf(one.base)];
        const place = `${this.field(one.base).replace(/\[0\]$/, '')}[ovr_index(s,${expression(one.index)},${one.first},${one.count},${one.site})]`;
        return `${place} = (${type})${inParentheses(expression(one.value))};`;
      }
      case 'if': {
        const no = one.no.length > 0 ? `else{${this.work(one.no)}}` : '';
        return `if ${inParentheses(expression(one.condition))}{${this.work(one.yes)}}${no}`;
      }
      case 'loop': {
        const { body, label } = this.labelled(one.label, one.body);
        const spent = `if(++budget>${loopBudget}){ovr_fault(s,${one.site});break;}`;
        return `for(;;){${spent}${body}}${label}`;
      }
      case 'block': {
        const { body, label } = this.labelled(one.label, one.body);
        return `{${body}}${label}`;
      }
      case 'leave':
        return `goto l${this.labels.get(one.label)};`;
      case 'fail':
        return `ovr_fault(s,${one.site});return;`;
      case 'mark':
        return this.marking ? `ovr_mark(s,${2 * one.state + Number(one.entered)});` : '';
      case 'hosted':
        throw new RangeError('work that is done elsewhere has no counterpart in C');
      case 'settle':
        return `{int n=0;do{${this.work(one.body)}if(++n>${one.limit}){ovr_fault(s,${one.site});break;}}while(${this.read(one.again)}!=0);}`;
    }
  }

  /** Work may stand at several places of a chart; in C each place needs a label of its own. */
  private labelled(label: number, work: readonly Work[]): { readonly body: string; readonly label: string } {
    const before = this.labels.get(label);
    this.lastLabel += 1;
    const own = this.lastLabel;
    this.labels.set(label, own);
    const body = this.work(work);
    if (before !== undefined) this.labels.set(label, before);
    return { body, label: body.includes(`goto l${own};`) ? `l${own}:;` : '' };
  }
}

/** The first place in the user's text that a piece of work stands for, beside what stands inside it. */
function siteIn(one: Work): SiteNumber | undefined {
  const nodes = one.k === 'set' ? [one.value] : one.k === 'set element' ? [one.index, one.value] : one.k === 'if' ? [one.condition] : [];
  for (const node of nodes) {
    const site = siteOf(node);
    if (site !== undefined) return site;
  }
  return 'site' in one && one.site > 0 ? one.site : undefined;
}

function siteOf(node: Node): SiteNumber | undefined {
  if ('site' in node && node.site > 0) return node.site;
  for (const operand of operandsOf(node)) {
    const site = siteOf(operand);
    if (site !== undefined) return site;
  }
  return undefined;
}

function placeMark(site: SiteNumber | undefined): string {
  return site === undefined ? '' : `/*@${site}*/`;
}

/** Takes the marks of places out again, and says which lines they stood in. */
function placed(marked: string): Pick<CUnit, 'source' | 'places'> {
  const places = new Map<number, SiteNumber>();
  const lines = marked.split('\n').map((line, index) => {
    const site = /\/\*@(\d+)\*\//.exec(line)?.[1];
    if (site !== undefined) places.set(index + 1, Number(site));
    return line.replace(/\/\*@\d+\*\//g, '');
  });
  return { source: lines.join('\n'), places };
}

function marker(name: string): string {
  return `static inline void ovr_mark(${name}_t *s,int32_t mark){if(s->marked<${mostMarks})s->marks[s->marked]=mark;s->marked++;}\n`;
}

/** An expression in parentheses, which many have already. */
function inParentheses(text: string): string {
  let depth = 0;
  const closesEarly = [...text].some((one, index) => {
    depth += Number(one === '(') - Number(one === ')');
    return depth === 0 && index < text.length - 1;
  });
  return text.startsWith('(') && !closesEarly ? text : `(${text})`;
}

function constant(value: number): string {
  return emitC({ k: 'const', type: 'LREAL', value }, { slot: () => '', time: '', hit: '' });
}

function callsOf(plan: Plan): (NumericFunction | '**')[] {
  const found = nodesOf(plan).flatMap((node): (NumericFunction | '**')[] =>
    node.k === 'call' && numericFunctions[node.fn].isOfLibrary ? [node.fn] : node.k === 'arithmetic' && node.operator === '**' ? ['**'] : [],
  );
  const isNormal = nodesOf(plan).some((node) => node.k === 'draw' && node.how === 'normal');
  return [...new Set<NumericFunction | '**'>([...found, ...(isNormal ? (['LN', 'COS'] as const) : [])])];
}

/** Helpers with the meaning of those in emit/js. */
function prelude(name: string, calls: readonly (NumericFunction | '**')[]): string {
  const state = `${name}_t *s`;
  const normal =
    calls.includes('LN') && calls.includes('COS')
      ? `static inline double ovr_normal(double *k){const double a=ovr_uniform(k),x=ovr_uniform(k);return sqrt(-2.0*${library('LN')}(1.0-a))*${library('COS')}(6.283185307179586*x);}\n`
      : '';
  const powers = calls.includes('**')
    ? `static inline double ovr_pow(${state},double a,double b,int32_t site){const double r=${library('**')}(a,b);if(!(fabs(r)<INFINITY))ovr_fault(s,site);return r;}`
    : '';
  return `/* Made by Ovrand. Do not edit: change the model. */
#include "${name}.h"
#include <math.h>
#include <string.h>
${calls.map((fn) => `extern double ${library(fn)}(const double x${fn === '**' || numericFunctions[fn].operands === 2 ? ', const double y' : ''});`).join('\n')}
#if defined(__GNUC__)
#pragma GCC diagnostic ignored "-Wunused-function"
#pragma GCC diagnostic ignored "-Wunused-variable"
#endif
static inline void ovr_fault(${state},int32_t site){if(s->fault==0)s->fault=site+1;}
static inline double ovr_div(${state},double a,double b,int32_t site){if(b==0.0){ovr_fault(s,site);return 0.0;}return a/b;}
static inline double ovr_mod(${state},double a,double b,int32_t site){if(b==0.0){ovr_fault(s,site);return 0.0;}return a-b*trunc(a/b);}
static inline double ovr_sqrt(${state},double a,int32_t site){if(a<0.0){ovr_fault(s,site);return 0.0;}return sqrt(a);}
static inline double ovr_positive(${state},double a,int32_t site){if(!(a>0.0)){ovr_fault(s,site);return 1.0;}return a;}
static inline double ovr_unit(${state},double a,int32_t site){if(!(a>=-1.0&&a<=1.0)){ovr_fault(s,site);return 0.0;}return a;}
static inline double ovr_range(${state},double a,double low,double high,int32_t site){if(!(a>=low&&a<=high)){ovr_fault(s,site);return low>0.0?low:0.0;}return a;}
static inline double ovr_check(${state},double a,double low,double high,int32_t site){if(!(a>=low&&a<=high)){ovr_fault(s,site);return low;}return a;}
static inline long ovr_index(${state},double i,long first,long count,int32_t site){const double k=i-(double)first;if(!(k>=0.0&&k<(double)count)){ovr_fault(s,site);return 0;}return (long)k;}
static inline double ovr_min(double a,double b){return (a<b)|(a!=a)?a:b;}
static inline double ovr_max(double a,double b){return (a>b)|(a!=a)?a:b;}
static inline double ovr_even(double a){const double f=floor(a),d=a-f;return d<0.5?f:d>0.5?f+1.0:fmod(f,2.0)==0.0?f:f+1.0;}
static inline double ovr_uniform(double *k){const uint32_t a=(uint32_t)*k+1831565813u;*k=(double)a;uint32_t x=(a^a>>15)*(a|1u);x^=x+(x^x>>7)*(x|61u);return (double)(x^x>>14)/4294967296.0;}
${normal}${powers}
`;
}
