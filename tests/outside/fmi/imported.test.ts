import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cosimulationUnit } from '@/core/cosimulation';
import { importedUnit } from '@/core/fmi';
import { type CheckedProject, orderRun, performRun, type RunResult } from '@/core/project';
import { receivedTrace, type Trace } from '@/core/trace';
import { orderAtStage, unitArchive } from '@/server/builds';
import { recordedRun } from '@/server/code';
import { RunPool } from '@/server/pool';
import { column, projectOf } from '../../support/project';
import { counterDescription, tankDescription, unitByHand } from '../../support/units';

/** Sources: Functional Mock-up Interface 2.0.4 and 3.0.2 (fmi-standard.org), from memory: unit2.c and unit3.c are written from their text and know nothing of Ovrand. */

/** The component that a unit becomes, as it is proposed. */
function proposed(name: string, archive: string): Record<string, string> {
  const unit = importedUnit(name, archive, []);
  if ('problem' in unit) throw new Error(unit.problem);
  return Object.fromEntries(unit.documents.map(({ path, text }) => [path, text]));
}

async function recorded(project: CheckedProject): Promise<{ readonly result: RunResult; readonly trace: Trace }> {
  expect(project.faults).toEqual([]);
  const { order } = await orderAtStage(project, project.cases[0]!, 'model');
  const made = await recordedRun(order);
  if (!made) throw new Error('the run did not come to its end');
  return { result: made.result, trace: receivedTrace(made.trace) };
}

const tankUses = (parameters = '') => ({
  'loops/l.yaml': `loop: l
components: { tank: { use: Hand_tank${parameters} } }
inputs: { inflow: { to: tank.inflow, start: 0.5 }, open: { to: tank.open, start: TRUE } }
unused: [tank.mode]
solver: { method: euler, step: 50 ms }
stop: 10 s
`,
  'cases/c.yaml': 'case: filling\nloop: l\ntime_limit: 3 s\nstimuli: { open: [{ step: FALSE, at: 5 s }] }\n',
});

describe('a unit that is brought in', () => {
  let tank = '';
  let counter = '';
  beforeAll(() => {
    tank = unitByHand('tests/outside/fmi/unit2.c', 'binaries/linux64/hand_tank.so', tankDescription);
    counter = unitByHand('tests/outside/fmi/unit3.c', 'binaries/x86_64-linux/hand_counter.so', counterDescription, {
      'resources/rate.txt': '2.5\n',
    });
  });

  it('of version 2 gets its parameters and inputs, and gives what it has reached at each hit', async () => {
    const { trace, result } = await recorded(projectOf({ ...proposed('hand-tank.fmu', tank), ...tankUses(', parameters: { area: 4 }') }));
    expect(result.error).toBeUndefined();
    const level = column(trace, 'tank.level');
    expect(level.data).toHaveLength(201);
    for (const [row, t] of level.time.entries()) expect(level.data[row]).toBeCloseTo(1 + (0.5 * Math.min(t, 5)) / 4, 9);
    expect(column(trace, 'tank.steps_1').data.at(-1)).toBe(200);
    expect([...new Set(column(trace, 'tank.mode').data)]).toEqual([0, 2]);
    expect(column(trace, 'tank.full').data.at(-1)).toBe(0);
  });

  it('of version 3 finds its resources, and exchanges every type', async () => {
    const documents = {
      ...proposed('counter.fmu', counter),
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: Hand_counter, parameters: { small: 1 } } }\ninputs: { fine: { to: c.fine, start: 0.25 }, on: { to: c.on } }\nsolver: { method: euler, step: 100 ms }\nstop: 3 s\n',
      'cases/c.yaml': 'case: counting\nloop: l\nstimuli: { on: [{ step: TRUE, at: 1 s }] }\n',
    };
    const { trace, result } = await recorded(projectOf(documents));
    expect(result.error).toBeUndefined();
    // 2.5 a second, doubled by small = 1, and 0.25 a step, from 1 s on.
    const { time, data } = column(trace, 'c.sum');
    for (const [row, t] of time.entries()) expect(data[row]).toBeCloseTo(t < 1 ? 0 : Math.round((t - 1) * 10) * 0.75, 9);
    expect(column(trace, 'c.word').data.at(-1)).toBe(30_000);
    expect(column(trace, 'c.big').data.at(-1)).toBe(15_000);
    expect([...new Set(column(trace, 'c.mode').data)]).toEqual([0, 1, 2]);
    expect(column(trace, 'c.over').data.at(-1)).toBe(1);
  });

  describe('and misbehaves', () => {
    const pool = new RunPool(2);
    afterAll(() => pool.close());
    const run = async (trouble: number): Promise<RunResult> => {
      const project = projectOf({ ...proposed('hand-tank.fmu', tank), ...tankUses(`, parameters: { trouble: ${trouble} }`) });
      return (await pool.run((await orderAtStage(project, project.cases[0]!, 'model')).order)).result;
    };
    it.each([
      [1, 'the unit tank crashed: it read or wrote memory that is not its own'],
      [2, 'the run took longer than 3 s and was ended; time_limit in the case allows more'],
      [3, 'the unit tank failed in its step from 1 s: the pump has seized'],
      [4, 'the unit tank gives NaN for tank.level at 1.05 s, which is no LREAL'],
      [5, 'the unit tank ended its process (exit code 3)'],
      [6, 'the unit tank could not finish its step from 1 s'],
      [7, 'the unit tank ended itself (abort)'],
    ])('in way %i: its run alone is an error, and says so', async (trouble, message) => {
      const [before, broken, after] = await Promise.all([run(0), run(trouble), run(0)]);
      expect(broken).toMatchObject({ stage: 'model', verdict: 'error', error: { message } });
      for (const one of [before, after, await run(0)]) expect(one.error).toBeUndefined();
    });
  });

  it('is not loaded where units are switched off', async () => {
    const project = projectOf({ ...proposed('hand-tank.fmu', tank), ...tankUses() });
    process.env.OVRAND_UNITS = 'off';
    await expect(orderAtStage(project, project.cases[0]!, 'model')).rejects.toThrow('OVRAND_UNITS=off keeps this program from it');
    delete process.env.OVRAND_UNITS;
  });

  it('that ends by itself, or is not initialized, is an error that says so', async () => {
    const far = {
      ...proposed('counter.fmu', counter),
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: Hand_counter } }\ninputs: { fine: { to: c.fine, start: 60 }, on: { to: c.on, start: TRUE } }\nsolver: { method: euler, step: 100 ms }\nstop: 3 s\n',
      'cases/c.yaml': 'case: counting\nloop: l\n',
    };
    expect((await recorded(projectOf(far))).result.error?.message).toBe('the unit c wants the run to end in its step from 0.1 s');
    const bare = unitByHand('tests/outside/fmi/unit3.c', 'binaries/x86_64-linux/hand_counter.so', counterDescription);
    expect((await recorded(projectOf({ ...far, ...proposed('counter.fmu', bare) }))).result.error?.message).toBe(
      'the unit c does not let itself be instantiated: there is no rate.txt among the resources',
    );
  });
});

describe.each([
  [2, 'runge-kutta-4, step: 50 ms'],
  [3, 'runge-kutta-4, step: 50 ms'],
  [2, 'dormand-prince-54, step: 1 s, relative_tolerance: 1e-7, absolute_tolerance: 1e-9'],
  [3, 'bogacki-shampine-32, step: 1 s, relative_tolerance: 1e-6, absolute_tolerance: 1e-8'],
] as const)('a plant that goes out as a unit of version %s with the solver %s and comes back', (version, solver) => {
  const documents = {
    'components/law.yaml': `component: Law
inputs: { reading: { type: LREAL, unit: Cel }, wanted: { type: LREAL, unit: Cel }, on: { type: BOOL } }
outputs: { heat: { type: LREAL, unit: "%" }, stage: { type: INT } }
parameters: { gain: { value: 0.7 } }
behaviour: { kind: routine, period: 250 ms, body: "heat := SEL(on, 0.0, LIMIT(0.0, gain * (wanted - reading) + 20.0, 100.0)); stage := LREAL_TO_INT(heat / 40.0);" }
`,
    'components/furnace.yaml': `component: Furnace
inputs: { heat: { type: LREAL, unit: "%" }, stage: { type: INT }, draught: { type: LREAL } }
outputs: { reading: { type: LREAL, unit: Cel }, hot: { type: BOOL } }
parameters: { loss: { value: 0.01 } }
behaviour: { kind: equations, states: { x: { start: 20, unit: Cel }, y: { start: "20.0 + loss", unit: Cel } }, derivatives: { x: "(0.02 + 0.001 * INT_TO_LREAL(stage)) * heat - loss * (x - 20.0) * (1.0 + draught)", y: "0.3 * (x - y)" }, outputs: { reading: y, hot: "y > 60.0" } }
`,
    'loops/l.yaml': `loop: l
components: { law: { use: Law }, furnace: { use: Furnace } }
inputs: { wanted: { to: law.wanted, start: 60 }, on: { to: law.on, start: TRUE }, draught: { to: furnace.draught } }
wires: [{ from: law.heat, to: furnace.heat }, { from: law.stage, to: furnace.stage }, { from: furnace.reading, to: law.reading }]
unused: [furnace.hot]
solver: { method: ${solver} }
stop: 60 s
`,
    'cases/c.yaml':
      'case: only\nloop: l\nparameters: { law.gain: 1.3, furnace.loss: 0.02 }\nstimuli: { wanted: [{ step: 150, at: 5 s }, { step: 40, at: 30 s }], on: [{ step: FALSE, at: 20 s }, { step: TRUE, at: 25 s }], draught: [{ step: 0.7, at: 40.5 s }] }\n',
  };

  it('gives the trace it gave as a component, and with the controller as code', async () => {
    const before = projectOf(documents);
    const unit = cosimulationUnit(before.project, before.project.loops.get('l')!, { stepNs: 250e6, components: ['furnace'] });
    const archive = Buffer.from(await unitArchive(unit, version)).toString('base64');
    const after = projectOf({
      ...documents,
      ...proposed('oven.fmu', archive),
      'loops/l.yaml': documents['loops/l.yaml'].replace('use: Furnace', 'use: furnace_2').replace('name: ', ''),
      'components/oven.yaml': proposed('oven.fmu', archive)['components/oven.yaml']!.replace('component: furnace', 'component: furnace_2'),
    });
    const [whole, parted] = [performRun(orderRun(before, before.cases[0]!)).trace, await recorded(after)];
    expect(parted.result.error).toBeUndefined();
    for (const name of ['law.heat', 'law.stage']) expect(column(parted.trace, name)).toEqual(column(whole, name));
    const [reading, original] = [column(parted.trace, 'furnace.reading'), column(whole, 'furnace.reading')];
    expect(reading.data).toHaveLength(241);
    for (const [row, t] of reading.time.entries()) {
      const at = original.time.indexOf(t);
      expect(Math.abs(reading.data[row]! - original.data[at]!), String(t)).toBeLessThanOrEqual(1e-12);
    }
    const onCode = await orderAtStage(after, after.cases[0]!, 'code');
    const code = await recordedRun(onCode.order);
    expect(code?.result).toMatchObject({ stage: 'code', backToBack: { words: 'Model and code agree in every bit.' } });
  });
});
