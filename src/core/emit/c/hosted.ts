import { hostedPlaces, mostMarks, mostSent, type Plan, type Queue, type SlotNumber } from '@/core/plan';
import { type CUnit, emitCUnit } from './unit';

/** What one task of a build exchanges at a hit: slots of the plan it stands in. */
export interface HostedTask {
  readonly takes: readonly SlotNumber[];
  readonly gives: readonly SlotNumber[];
}

/** How the prefix of all names in a build reads. */
const prefix = 'plan';

/**
 * A plan as C that another program calls task by task: `plan.c`, and `host.c` with the functions that docs/emitted-c.md describes.
 * @param begun slots that are given values at the begin, in this order
 * @param outbox where messages to the outside wait, if there are any
 */
export function emitHostedC(
  plan: Plan,
  tasks: readonly HostedTask[],
  begun: readonly SlotNumber[],
  outbox: Queue | undefined,
): { readonly files: Readonly<Record<string, string>>; readonly unit: CUnit } {
  const unit = emitCUnit(plan, prefix, true);
  const begin = begun.map((slot, index) => unit.store(slot, `v[${index}]`, 's->')).join('\n');
  const host = `/* Made by Ovrand. Do not edit: change the model. */
#include "plan.c"
#define OVRAND_EXPORT __attribute__((visibility("default")))

OVRAND_EXPORT long ovrand_size(void){return (long)sizeof(${prefix}_t);}

OVRAND_EXPORT void ovrand_begin(${prefix}_t *s,const double *v){
(void)v;${prefix}_init(s);
${begin}
}

OVRAND_EXPORT void ovrand_hit(${prefix}_t *s,long task,double hit,double *v){
s->marked=0;
switch(task){
${tasks.map((task, index) => hit(task, index, unit)).join('\n')}
default:break;
}
v[${hostedPlaces.fault}]=(double)s->fault;
v[${hostedPlaces.marked}]=(double)s->marked;
for(int32_t i=0;i<s->marked&&i<${mostMarks};i++)v[${hostedPlaces.marks}+i]=(double)s->marks[i];
${outbox ? sent(outbox, unit) : ''}}
`;
  return { files: { [`${prefix}.h`]: unit.header, [`${prefix}.c`]: unit.source, 'host.c': host }, unit };
}

function hit({ takes, gives }: HostedTask, index: number, unit: CUnit): string {
  const taken = takes.map((slot, at) => unit.store(slot, `v[${hostedPlaces.takes + at}]`, 's->')).join('');
  const given = gives.map((slot, at) => `v[${hostedPlaces.takes + takes.length + at}]=${unit.slot(slot, 's->')};`).join('');
  return `case ${index}:${taken}${prefix}_task${index}(s,hit);${given}break;`;
}

/** The values of the messages that were sent, in their order; then none waits. */
function sent({ values, waiting, head }: Queue, unit: CUnit): string {
  const array = unit
    .slot(values.base, 's->')
    .replace(/^\(double\)/, '')
    .replace(/\[0\]$/, '');
  return `for(long i=0;i<(long)${unit.slot(waiting, 's->')}&&i<${mostSent};i++)v[${hostedPlaces.sent}+i]=(double)${array}[((long)${unit.slot(head, 's->')}+i)%${values.count}];
${unit.store(waiting, '0.0', 's->')}${unit.store(head, '0.0', 's->')}
`;
}
