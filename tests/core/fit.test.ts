import { describe, expect, it } from 'vitest';
import { type FitParameter, fitParameters, fittedSet } from '@/core/fit';
import type { CheckedProject } from '@/core/project';
import { type Experiment, simulate } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { projectOf } from '../support/project';

/** A tank with an orifice whose coefficient, and whose surface, are to be found. */
const tank: CheckedProject = projectOf({
  'components/tank.yaml': `component: Tank
inputs: { inflow: { type: LREAL, unit: m3/s, min: 0, max: 1 } }
outputs: { level: { type: LREAL, unit: m, min: 0, max: 9 }, flow: { type: LREAL, unit: m3/s } }
parameters:
  area: { value: 2, unit: m2, min: 0.5, max: 8 }
  cd: { value: 0.5, min: 0.1, max: 1 }
behaviour:
  kind: equations
  states: { h: { start: 1.5 } }
  let: { out: "cd * 0.05 * SQRT(19.62 * MAX(h, 0.0))" }
  derivatives: { h: "(inflow - out) / area" }
  outputs: { level: h, flow: out }
`,
  'loops/tank.yaml':
    'loop: tank\ncomponents: { tank: { use: Tank } }\ninputs: { inflow: { to: tank.inflow } }\nsolver: { method: runge-kutta-4, step: 200 ms }\nstop: 60 s\n',
  'cases/c.yaml': 'case: only\nloop: tank\nstimuli: { inflow: [{ hold: 0.0 }, { step: 0.2, at: 15 s }, { step: 0.02, at: 30 s }] }\n',
});
const experiment: Experiment = tank.cases[0]!.experiment;
const parameter = (name: string, start: number): FitParameter => {
  const entry = [...tank.loops.values()][0]!.catalogue.findEntry(name, ['parameter'])!;
  return { name: entry.name, unit: entry.unit, slot: entry.slot, start, min: entry.min!, max: entry.max! };
};

/** Reproducible normal numbers (Box and Muller over a small generator). */
function normals(seed: number): () => number {
  let state = seed * 2654435761;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return (((t ^ (t >>> 14)) >>> 0) + 0.5) / 4294967296;
  };
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** What a logger would have written of the tank with planted parameters: noise on each row, every second. */
function recorded(area: number, cd: number, noise: number, seed: number, stopNs = experiment.stopNs): Trace {
  const overrides = [
    [parameter('tank.area', 0).slot, area],
    [parameter('tank.cd', 0).slot, cd],
  ] as const;
  const { trace } = simulate({ ...experiment, stopNs, overrides });
  const random = normals(seed);
  const rows = Array.from(trace.bases[0]!.keys()).filter((row) => row % 5 === 0);
  return {
    ...trace,
    bases: [Float64Array.from(rows, (row) => trace.bases[0]![row]!)],
    columns: trace.columns
      .filter((column) => column.name !== 'inflow')
      .map((column) => ({ ...column, data: Float64Array.from(rows, (row) => column.data[row]! + noise * random()) })),
  };
}
const fit = (recording: Trace, more: Partial<Parameters<typeof fitParameters>[0]> = {}) =>
  fitParameters({ experiment, recording, signals: ['tank.level'], parameters: [parameter('tank.area', 3), parameter('tank.cd', 0.3)], ...more });

describe('a plant fitted to a recording', () => {
  it('finds what was planted, exactly without noise', () => {
    const found = fit(recorded(2.7, 0.62, 0, 1));
    expect(found.parameters.map((one) => one.value)).toEqual([expect.closeTo(2.7, 5), expect.closeTo(0.62, 6)]);
    expect(found.signals[0]!.fit).toBeGreaterThan(99.99);
    expect(found.signals[0]!.fitBefore).toBeLessThan(60);
  });

  it('over 400 trials the 95 % intervals hold the planted values in 92 to 98 %', () => {
    const held = [0, 0];
    const trials = 400;
    const random = normals(77);
    for (let trial = 0; trial < trials; trial += 1) {
      const planted = [2.5 + 0.3 * random(), 0.6 + 0.05 * random()];
      const found = fit(recorded(planted[0]!, planted[1]!, 0.03, trial + 1));
      found.parameters.forEach(({ interval }, index) => {
        if (interval && interval[0] <= planted[index]! && planted[index]! <= interval[1]) held[index]! += 1;
      });
    }
    for (const count of held) {
      expect(count / trials).toBeGreaterThanOrEqual(0.92);
      expect(count / trials).toBeLessThanOrEqual(0.98);
    }
  });

  it('is checked on a recording it has not seen, and weighs signals by their own scatter', () => {
    const found = fit(recorded(2.7, 0.62, 0.02, 5), { signals: ['tank.level', 'tank.flow'], holdOut: recorded(2.7, 0.62, 0.02, 6, 45e9) });
    const [level, flow] = found.signals;
    expect(level!.fitHeldOut).toBeGreaterThan(90);
    // The flow is smaller than its noise: it is there, but says little.
    expect(flow!.fit).toBeLessThan(60);
    expect(found.parameters[0]!.value).toBeCloseTo(2.7, 0);
    expect(found.words).toMatch(/^Fit .* % \(tank\.flow; .* % before\)\. On the recording held out: /);
  });

  it('plays recorded inputs in place of the stimuli', () => {
    const quiet = { ...experiment, stimuli: [] };
    const { trace } = simulate({ ...experiment, overrides: [[parameter('tank.area', 0).slot, 2.7]] });
    expect(fit(trace, { experiment: quiet }).parameters[0]!.value).toBeCloseTo(2.7, 3);
  });

  it('says what the recording cannot tell: a bound reached, parameters that go together', () => {
    const bounded = fit(recorded(2.7, 0.62, 0.001, 3), { parameters: [{ ...parameter('tank.area', 3), min: 2.8 }, parameter('tank.cd', 0.3)] });
    expect(bounded.words).toContain('tank.area ended at its bound 2.8: the bound decides, not the recording.');
    // Without inflow only their ratio counts.
    const empty = { ...experiment, stimuli: [] };
    const still = simulate({ ...empty, overrides: [[parameter('tank.area', 0).slot, 2.7]] }).trace;
    const together = fitParameters({
      experiment: empty,
      recording: { ...still, columns: still.columns.filter((column) => column.name !== 'inflow') },
      signals: ['tank.level'],
      parameters: [parameter('tank.area', 3), parameter('tank.cd', 0.3)],
    });
    expect(together.words).toMatch(/can hardly be told apart|says nothing about/);
  });

  it('is kept as a parameter set with its reason', () => {
    const found = fit(recorded(2.7, 0.62, 0.02, 5));
    const file = fittedSet('Summer 2026', 'site.csv', found);
    expect(file.path).toBe('parameters/summer-2026.yaml');
    expect(file.text).toMatch(/about: "?Fitted to site\.csv\. Fit /);
    expect(file.text).toMatch(/tank\.area: 2\.\d+/);
    expect(file.text).toContain('95 % intervals: tank.area');
  });

  it('refuses in words what cannot be fitted', () => {
    const recording = recorded(2.7, 0.62, 0, 1);
    expect(() => fit(recording, { signals: ['nothing'] })).toThrow('the recording has no signal of this loop');
    expect(() => fit(recording, { parameters: [] })).toThrow('no parameter was chosen');
  });
});

describe('what a fit makes no use of is told', () => {
  const question = (recording: Trace) => ({ experiment, recording, signals: ['tank.level'], parameters: [parameter('tank.cd', 0.4)] });
  const plain = recorded(2, 0.6, 0, 1);
  const column = (name: string, data: Float64Array, between: 'held' | 'straight'): Trace['columns'][number] => ({
    name,
    slot: 90,
    base: plain.columns[0]!.base,
    between,
    type: 'LREAL',
    unit: '1',
    data,
  });
  const time = plain.bases[plain.columns[0]!.base]!;
  const withColumns = (...columns: Trace['columns'][number][]): Trace => ({ ...plain, columns: [...plain.columns, ...columns] });

  it('columns that are no signal of the loop, that were not chosen, or are not there', () => {
    const { words } = fitParameters(
      question(
        withColumns(
          column(
            'weather',
            time.map(() => 1),
            'straight',
          ),
          column(
            'tank.flow',
            time.map((t) => t),
            'straight',
          ),
        ),
      ),
    );
    expect(words).toContain('Not used of the recording: weather, which is neither a free input nor a signal of this loop.');
    expect(words).toMatch(/Not fitted, because not chosen: .*tank\.flow/);
    expect(fitParameters({ ...question(plain), signals: ['tank.level', 'tank.haze'] }).words).toContain(
      'The recording has no column tank.haze, so it was not fitted.',
    );
  });

  it('a column that goes in steps without {hold}, which biases what is found', () => {
    const inflow = time.map((t) => (t < 15 ? 0 : t < 30 ? 0.2 : 0.02));
    const stepped = fitParameters(question(withColumns(column('inflow', inflow, 'straight'))));
    expect(stepped.words).toContain(
      'inflow goes in steps but is taken as straight between the rows of the recording, which biases the fit: head the column inflow[1]{hold}.',
    );
    const held = fitParameters(question(withColumns(column('inflow', inflow, 'held'))));
    expect(held.words).not.toContain('goes in steps');
    expect(Math.abs(held.parameters[0]!.value - 0.6)).toBeLessThan(Math.abs(stepped.parameters[0]!.value - 0.6));
    const ramp = fitParameters(
      question(
        withColumns(
          column(
            'inflow',
            time.map((t) => t / 100),
            'straight',
          ),
        ),
      ),
    );
    expect(ramp.words).not.toContain('goes in steps');
  });
});
