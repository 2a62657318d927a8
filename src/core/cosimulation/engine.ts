import { type CUnit, emitCUnit } from '@/core/emit/c';
import { integerRange, type Plan, type ValueType } from '@/core/plan';
import { typeInVersion2 } from './description2';
import { typeInVersion3 } from './description3';
import type { CosimulationUnit, UnitVariable } from './unit';
import { pairs, variableC, variableCalls } from './variableC';

/** Whole steps on the grid of the solver. */
const fixedSteps = `for(long long from=u->now;from<next;){
const long long off=from%step,grid=off==0?from:from-off+step;
const long count=grid>from?1:((next-from)/step>0?(long)((next-from)/step):1);
const long long length=grid>from?(grid<next?grid:next)-from:(step<next-from?step:next-from);
plan_advance(&u->s,(double)from,(double)length,count,0,0);
from+=count*length;
if(from<next)plan_outputs(&u->s,(double)from/1e9);
}`;

/** C that both versions of the standard share: an instance, its way from one communication point to the next, and its variables by their references. */
export function engineC(unit: CosimulationUnit): { readonly files: Readonly<Record<string, string>>; readonly calls: CUnit['calls'] } {
  const { plan, variables } = unit;
  const c = emitCUnit(plan, 'plan');
  const pair = plan.states.length > 0 ? pairs[plan.solver.method] : undefined;
  const engine = `/* Made by Ovrand. Do not edit: change the model. */
#include "plan.c"
#include <stdio.h>
#include <stdlib.h>
#define OVR_TASKS ${plan.tasks.length}

/* Everything an instance knows, without pointers: it is copied to keep a state. */
typedef struct {
  plan_t s;
  long long now; /* ns since the start */
  double start; /* time of the start, s */
  long long due[OVR_TASKS+1];
  long hit[OVR_TASKS+1];${pair ? '\n  double step, before; /* planned step of the solver (s), and the error of the last */' : ''}
} ovr_state;
${pair ? variableC(plan, pair, c) : ''}
static void ovr_reset(ovr_state *u){memset(u,0,sizeof *u);plan_init(&u->s);${pair ? 'u->before=1e-4;' : ''}${plan.tasks.map((task, index) => `u->due[${index}]=${task.offsetNs}LL;`).join('')}}

static double ovr_seconds(const ovr_state *u){return (double)u->now/1e9;}

/* Start values of the states follow from parameters; then all continuous values. */
static void ovr_initialize(ovr_state *u){plan_start(&u->s);plan_outputs(&u->s,0.0);}

/* What is due at this instant. */
static void ovr_instant(ovr_state *u){
plan_outputs(&u->s,ovr_seconds(u));
${plan.tasks.map((_, index) => `if(u->due[${index}]==u->now)plan_task${index}(&u->s,(double)u->hit[${index}]);`).join('\n')}
${plan.tasks.map((task, index) => `if(u->due[${index}]==u->now){u->hit[${index}]++;u->due[${index}]+=${task.periodNs}LL;}`).join('\n')}
plan_outputs(&u->s,ovr_seconds(u));
}

/* From this communication point to another: what is due here, then the steps of the solver, shortened at breakpoints. What is due at the end waits for the next step, which has the inputs of then. */
static int ovr_advance(ovr_state *u,long long until){
${pair ? '' : `const long long step=${plan.solver.stepNs}LL;`}
while(u->now<until&&u->s.fault==0){
ovr_instant(u);
long long next=until;
for(int i=0;i<OVR_TASKS;i++)if(u->due[i]<next)next=u->due[i];
${pair ? 'if(!ovr_integrate(u,(double)u->now/1e9,(double)next/1e9))break;' : fixedSteps}
u->now=next;
${finite(plan, c)}
}
plan_outputs(&u->s,ovr_seconds(u));
return u->s.fault==0;
}

typedef enum { OVR_NONE, OVR_REAL, OVR_INTEGER, OVR_BOOLEAN } ovr_kind;

/* The kind of a variable in version 2 of the standard, and the letters of its type in version 3. */
static ovr_kind ovr_kind_of(unsigned reference){switch(reference){${variables.map((one) => `case ${one.reference}:return OVR_${typeInVersion2(one.type).toUpperCase()};`).join('')}default:return OVR_NONE;}}
static const char *ovr_type_of(unsigned reference){switch(reference){case 0:return "Float64";${variables.map((one) => `case ${one.reference}:return "${typeInVersion3(one.type)}";`).join('')}default:return "";}}

static double ovr_get(const ovr_state *u,unsigned reference){switch(reference){case 0:return u->start+ovr_seconds(u);${variables.map((one) => `case ${one.reference}:return ${c.slot(one.slot, 'u->s.')};`).join('\n')}default:return 0.0;}}

/* 0 where that is no input or parameter, or the value is not one of its type. */
static int ovr_set(ovr_state *u,unsigned reference,double v){switch(reference){${variables
    .filter((one) => one.causality !== 'output')
    .map((one) => `case ${one.reference}:${setting(one, plan, c)}return 1;`)
    .join('\n')}default:return 0;}}

static const char *ovr_fault_words(const ovr_state *u){switch(u->s.fault){${plan.sites
    .map((site, index) => `case ${index + 1}:return "run-time error in ${cText(`"${site.text}" (${site.file}:${site.line}:${site.column})`)}";`)
    .join(
      '\n',
    )}case -2:return "the solver's step became too small: the error of a state asks for it";case -1:return "a state is no longer finite: the equations grow without bound, or the step is too long for them";default:return "run-time error";}}
`;
  return {
    files: { 'plan.h': c.header, 'plan.c': c.source, 'engine.c': engine },
    calls: pair ? [...new Set([...c.calls, ...variableCalls])] : c.calls,
  };
}

/** The states together must stay finite, as in every run. */
function finite({ states }: Plan, c: CUnit): string {
  if (states.length === 0) return '';
  return `if(!(fabs(${states.map(({ slot }) => c.slot(slot, 'u->s.')).join('+')})<INFINITY)&&u->s.fault==0)u->s.fault=-1;`;
}

function setting(one: UnitVariable, plan: Plan, c: CUnit): string {
  const input = one.input === undefined ? undefined : plan.inputs[one.input];
  const check = checkOf(one.type);
  if (!input) return `${check}${c.store(one.slot, 'v', 'u->s.')}`;
  const slope = input.slope === undefined ? '' : c.store(input.slope, '0.0', 'u->s.');
  const since = input.since === undefined ? '' : c.store(input.since, 'ovr_seconds(u)', 'u->s.');
  return `${check}${c.store(input.base, 'v', 'u->s.')}${slope}${since}`;
}

function checkOf(type: ValueType): string {
  const range = integerRange[type];
  return range ? `if(!(v>=${range[0]}.0&&v<=${range[1]}.0))return 0;` : '';
}

/** Text between the quotes of a C string. */
export function cText(text: string): string {
  return text.replace(/[\\"]/g, (one) => `\\${one}`).replace(/[^\x20-\x7e]/g, '?');
}
