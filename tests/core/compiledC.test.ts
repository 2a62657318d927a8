import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { checkProject, emitRunner, orderRun, performRun, type Trace } from '@/core';
import { compileC } from '@/server/compiler';
import { demoFiles } from '../support/project';

/** Runs a program and reads back its continuous log and the columns of each task. */
async function compiledTrace(program: ReturnType<typeof emitRunner>, columns: number): Promise<{ fault: number; log: Float64Array[]; rest: Float64Array }> {
  const executable = await compileC(program);
  try {
    const bytes = execFileSync(executable.file, { maxBuffer: 1e9 });
    const all = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
    const [rows = 0, fault = 0] = all;
    const log = Array.from({ length: columns }, (_, index) => all.subarray(2 + index * rows, 2 + (index + 1) * rows));
    return { fault, log, rest: all.subarray(2 + columns * rows) };
  } finally {
    await executable.remove();
  }
}

/** Bits of a column, so that −0, 0 and NaN are told apart. */
const bits = (column: Float64Array): BigUint64Array => new BigUint64Array(Float64Array.from(column).buffer);

function continuousColumns(trace: Trace, slots: readonly number[]): Float64Array[] {
  return [trace.bases[0]!, ...slots.map((slot) => trace.columns.find((one) => one.slot === slot && one.base === 0)!.data)];
}

describe('compiled C of a plan', () => {
  it('gives the trace of the demo’s case bit for bit', async () => {
    const project = checkProject(await demoFiles());
    const test = project.cases.find((one) => one.experiment.case === 'Upward transit, upper reach sways')!;
    const order = orderRun(project, test);
    const { experiment } = order;
    expect(experiment.script).toEqual([]);
    const { trace } = performRun(order);
    const { plan } = experiment;
    const started = { ...plan, slots: plan.slots.map((slot, index) => ({ ...slot, start: experiment.overrides.find(([one]) => one === index)?.[1] ?? slot.start })) };
    const { log, fault, rest } = await compiledTrace(emitRunner(started, experiment.stimuli, experiment.stopNs), plan.logged.length + 1);
    expect(fault).toBe(0);
    continuousColumns(trace, plan.logged).forEach((column, index) => expect(bits(log[index]!)).toEqual(bits(column)));
    const slots = plan.tasks[0]!.logged;
    slots.forEach((slot, index) => {
      const column = trace.columns.find((one) => one.slot === slot && one.base === 1)!.data;
      expect(bits(Float64Array.from(column, (_, hit) => rest[hit * slots.length + index]!))).toEqual(bits(column));
    });
  });
});
