import type { Plan } from '@/core/plan';
import { type CUnit, emitCUnit } from './unit';

/** A change of the free input of that number: from `atNs` on it is value + slope × (t − at). */
export interface Stimulus {
  readonly atNs: number;
  readonly input: number;
  readonly value: number;
  readonly slope: number;
}

/** A whole program: a plan as C and a `main` that runs it as the executive does. */
export interface CProgram {
  readonly files: Readonly<Record<string, string>>;
  readonly calls: CUnit['calls'];
}

/**
 * A program that makes one run with a fixed step and writes its trace to the standard output: the number of rows of the continuous log, its columns one after
 * the other (time first), then for each task its times and logged slots, all as doubles. With an argument N it makes N runs and writes
 * nanoseconds per run instead.
 */
export function emitRunner(plan: Plan, changes: readonly Stimulus[], stopNs: number): CProgram {
  const unit = emitCUnit(plan, 'plan');
  const hits = plan.tasks.map((task) => (stopNs < task.offsetNs ? 0 : Math.floor((stopNs - task.offsetNs) / task.periodNs) + 1));
  const rows = Math.ceil(stopNs / plan.solver.stepNs) + 2 * hits.reduce((a, b) => a + b, 0) + 2 * changes.length + 64;
  const main = `#define _POSIX_C_SOURCE 199309L
#include "plan.c"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
${memory(plan, changes, hits, rows)}
${oneRun(plan, changes, unit, stopNs)}
${mainFunction(plan, hits)}
`;
  return { files: { 'plan.h': unit.header, 'plan.c': unit.source, 'main.c': main }, calls: unit.calls };
}

/** The log, what each task has logged at its hits, the changes of free inputs in order of time, and the plan's own values. */
function memory(plan: Plan, changes: readonly Stimulus[], hits: readonly number[], rows: number): string {
  const width = plan.logged.length + 1;
  const kept = plan.tasks.map((task, index) => `static double kept${index}[${Math.max(1, hits[index] ?? 0)}][${Math.max(1, task.logged.length)}];`);
  const events = changes.map(({ atNs, input, value, slope }) => `{${atNs}LL,${input},${real(value)},${real(slope)}}`);
  return `static double columns[${width}][${rows}];
static double *log_[${width}];
${kept.join('\n')}
static const struct {long long ns;int input;double value,slope;} events[]={${[...events, '{-1,0,0.0,0.0}'].join(',')}};
static plan_t s;
static long row;
static int same(long at){for(int i=0;i<${width};i++)if(i>0&&columns[i][at]!=columns[i][at-1])return 0;return 1;}`;
}

/** What happens at an instant, and in which order, is the same as in the executive. */
function oneRun(plan: Plan, changes: readonly Stimulus[], unit: CUnit, stopNs: number): string {
  const due = plan.tasks.map((_, index) => `if(due${index}==now)plan_task${index}(&s,(double)hit${index});`);
  const record = plan.tasks.map((task, index) => {
    const values = task.logged.map((slot, column) => `kept${index}[hit${index}][${column}]=${unit.slot(slot, 's.')};`).join('');
    return `if(due${index}==now){${values}hit${index}++;due${index}+=${task.periodNs}LL;}`;
  });
  const changed = [...new Set(changes.map((change) => change.input))];
  return `static void run(void){
plan_init(&s);plan_start(&s);row=0;
long long now=0;const long long stop=${stopNs}LL,step=${plan.solver.stepNs}LL;int event=0;
${plan.tasks.map((task, index) => `long long due${index}=${task.offsetNs}LL;long hit${index}=0;`).join('')}
plan_outputs(&s,0.0);
for(;;){
const double seconds=(double)now/1e9;
if(now>0){plan_outputs(&s,seconds);plan_log(&s,seconds,log_,row);row++;}
for(;events[event].ns>=0&&events[event].ns<=now;event++){switch(events[event].input){${changed.map((input) => taking(plan, unit, input)).join('')}default:break;}}
plan_outputs(&s,seconds);
${due.join('\n')}
${record.join('\n')}
plan_outputs(&s,seconds);plan_log(&s,seconds,log_,row);
if(now==0||!same(row))row++;
if(s.fault||now>=stop)break;
long long next=stop;
${plan.tasks.map((_, index) => `if(due${index}<next)next=due${index};`).join('\n')}
if(events[event].ns>=0&&events[event].ns<next)next=events[event].ns;
for(long long from=now;from<next;){
const long long off=from%step,grid=off==0?from:from-off+step;
const long count=grid>from?1:((next-from)/step>0?(long)((next-from)/step):1);
const long long length=grid>from?(grid<next?grid:next)-from:(step<next-from?step:next-from);
row=plan_advance(&s,(double)from,(double)length,count,log_,row);
from+=count*length;
if(from<next){plan_outputs(&s,(double)from/1e9);plan_log(&s,(double)from/1e9,log_,row);row++;}
}
now=next;
}
}`;
}

/** The branch that takes over a change of one free input. */
function taking(plan: Plan, unit: CUnit, input: number): string {
  const free = plan.inputs[input];
  if (!free) return '';
  const parts = [
    [free.base, 'events[event].value'],
    [free.slope, 'events[event].slope'],
    [free.since, '(double)events[event].ns/1e9'],
  ] as const;
  return `case ${input}:${parts.map(([slot, value]) => (slot === undefined ? '' : unit.store(slot, value, 's.'))).join('')}break;`;
}

function mainFunction(plan: Plan, hits: readonly number[]): string {
  const width = plan.logged.length + 1;
  const kept = plan.tasks.map((task, index) => `fwrite(kept${index},sizeof(double),${(hits[index] ?? 0) * task.logged.length},stdout);`);
  return `int main(int argc,char **argv){
for(int i=0;i<${width};i++)log_[i]=columns[i];
if(argc>1){
const long rounds=strtol(argv[1],0,10);double best=1e300;
for(long i=0;i<rounds;i++){struct timespec a,b;clock_gettime(CLOCK_MONOTONIC,&a);run();clock_gettime(CLOCK_MONOTONIC,&b);
const double ns=(double)(b.tv_sec-a.tv_sec)*1e9+(double)(b.tv_nsec-a.tv_nsec);if(ns<best)best=ns;}
printf("%.0f\\n",best);return 0;
}
run();
const double head[2]={(double)row,(double)s.fault};fwrite(head,sizeof(double),2,stdout);
for(int i=0;i<${width};i++)fwrite(columns[i],sizeof(double),(size_t)row,stdout);
${kept.join('')}
return 0;
}`;
}

function real(value: number): string {
  return Number.isInteger(value) ? `${value}.0` : String(value);
}
