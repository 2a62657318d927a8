import { afterAll, describe, expect, it } from 'vitest';
import { laidSweep } from '@/core/campaign';
import { performRun, type RunResult } from '@/core/project';
import { RunPool } from '@/server/pool';
import { projectOf } from '../support/project';

/** Its work grows with a parameter, from next to nothing to far more than it may take. */
const project = projectOf({
  'components/busy.yaml':
    'component: Busy\noutputs: { y: { type: LREAL } }\nparameters: { rounds: { value: 1, type: DINT, min: 0, max: 900000 }, gain: { value: 1 } }\nbehaviour:\n  kind: routine\n  period: 1 ms\n  body: |\n    VAR i : DINT; END_VAR\n    FOR i := 1 TO rounds DO y := y + gain * 0.001; END_FOR;\n',
  'loops/l.yaml': 'loop: l\ncomponents: { busy: { use: Busy } }\nunused: [busy.y]\nsolver: { method: runge-kutta-4, step: 1 ms }\nstop: 20 s\n',
  'cases/c.yaml': 'case: work\nloop: l\ntime_limit: 3 s\n',
});
const quantity = (name: string) => ({ name, spread: { k: 'levels' as const, levels: [] } });

describe('many runs of one plan', () => {
  const sweep = (points: readonly (readonly number[])[]) =>
    laidSweep(project, project.cases[0]!, [quantity('busy.rounds'), quantity('busy.gain')], points, { k: 'same' }, 'none').runs();

  const pool = new RunPool(2);
  afterAll(() => pool.close());

  async function ran(points: readonly (readonly number[])[]): Promise<RunResult[]> {
    expect(project.faults).toEqual([]);
    const { runs } = sweep(points);
    const found: RunResult[] = [];
    await pool.runAll(
      runs.map((run) => run.order),
      (index, { result }) => {
        expect(found[index]).toBeUndefined();
        found[index] = result;
      },
    );
    return found;
  }

  it('are made some at a time in a thread, each once, and find what each finds by itself', async () => {
    const points = Array.from({ length: 60 }, (_, i) => [i % 3, i]);
    const found = await ran(points);
    expect(found).toHaveLength(60);
    const { runs } = sweep(points);
    for (const at of [0, 17, 59]) expect(found[at]).toEqual(performRun(runs[at]!.order).result);
    expect(new Set(found.map((one) => one.fingerprint)).size).toBe(60);
  });

  it('lose none beside one that does not end: it alone is an error', async () => {
    const points = Array.from({ length: 40 }, (_, i) => [i === 25 ? 900_000 : 1, i]);
    const found = await ran(points);
    const broken = found.flatMap((one, index) => (one.error ? [index] : []));
    expect(broken).toEqual([25]);
    expect(found[25]?.error?.message).toBe('the run took longer than 3 s and was ended; time_limit in the case allows more');
    expect(found.filter((one) => one.traceHash !== '')).toHaveLength(39);
  });
});
