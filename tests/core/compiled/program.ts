import { execFileSync } from 'node:child_process';
import { expect } from 'vitest';
import { emitRunner } from '@/core/emit/c';
import type { InputChange, Plan } from '@/core/plan';
import { performRun, type RunOrder } from '@/core/project';
import { stimulated } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { compileC } from '@/server/compiler';

/** What a compiled program wrote: site of a run-time error + 1, columns of the continuous log, hits of each task. */
interface Compiled {
  readonly fault: number;
  readonly log: readonly Float64Array[];
  readonly tasks: readonly Float64Array[];
}

async function runCompiled(plan: Plan, stimuli: readonly InputChange[], stopNs: number, effort: '-O1' | '-O2'): Promise<Compiled> {
  const executable = await compileC(emitRunner(plan, stimuli, stopNs), effort);
  try {
    const bytes = execFileSync(executable.file, { maxBuffer: 1e9 });
    const all = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
    const [rows = 0, fault = 0] = all;
    let at = 2;
    const take = (count: number): Float64Array => {
      at += count;
      return all.subarray(at - count, at);
    };
    const log = Array.from({ length: plan.logged.length + 1 }, () => take(rows));
    const tasks = plan.tasks.map((task) => take((Math.floor((stopNs - task.offsetNs) / task.periodNs) + 1) * task.logged.length));
    return { fault, log, tasks };
  } finally {
    await executable.remove();
  }
}

/** Bits of numbers, so that −0, 0 and NaN are told apart. */
const bits = (column: ArrayLike<number>): BigUint64Array => new BigUint64Array(Float64Array.from(column).buffer);

/**
 * Runs an order by the executive and as compiled C; every logged value must have the same bits up to the end or to a run-time error, which must come
 * from the same place.
 * @returns the trace, for further looks
 */
export async function expectSameBits(order: RunOrder, effort: '-O1' | '-O2' = '-O2'): Promise<{ trace: Trace; faulty: boolean }> {
  const { experiment } = order;
  const overrides = new Map(experiment.overrides);
  const made = stimulated(experiment);
  const slots = made.plan.slots.map((slot, index) => ({ ...slot, start: overrides.get(index) ?? slot.start }));
  const plan = { ...made.plan, slots };
  const { trace, result } = performRun(order);
  const compiled = await runCompiled(plan, made.stimuli, experiment.stopNs, effort);
  expect(compiled.fault !== 0).toBe(result.error !== undefined);
  if (result.error) expect(result.error.message).toContain(plan.sites[compiled.fault - 1]!.text);
  const same = (ours: Float64Array, theirs: ArrayLike<number>, rows: number): void =>
    expect(bits(Float64Array.from({ length: rows }, (_, row) => theirs[row]!))).toEqual(bits(ours.subarray(0, rows)));
  // What an instant with an error still wrote is of no meaning.
  const kept = (column: Float64Array): number => (result.error ? Math.max(0, column.length - 2) : column.length);
  [trace.bases[0]!, ...plan.logged.map((slot) => trace.columns.find((one) => one.slot === slot && one.base === 0)!.data)].forEach((column, index) => {
    same(column, compiled.log[index]!, kept(column));
  });
  plan.tasks.forEach((task, index) => {
    task.logged.forEach((slot, position) => {
      const column = trace.columns.find((one) => one.slot === slot && one.base > 0)!.data;
      const theirs = compiled.tasks[index]!;
      const values = Float64Array.from(column, (_, hit) => theirs[hit * task.logged.length + position]!);
      same(column, values, kept(column));
    });
  });
  return { trace, faulty: result.error !== undefined };
}
