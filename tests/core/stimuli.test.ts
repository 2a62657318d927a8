import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawnCourse } from '@/core/cases';
import { probe, valueAt } from '@/core/compare';
import { ContinuousPart } from '@/core/linear';
import { orderRun, performRun, restsOn } from '@/core/project';
import type { Trace } from '@/core/trace';
import { column, projectOf, runCase } from '../support/project';

const documents = (stimulus: string, type = 'LREAL', more: Readonly<Record<string, string>> = {}, rest = '') => ({
  'components/c.yaml': `component: C
inputs: { u: { type: ${type}, min: -10, max: 10 } }
outputs: { area: { type: LREAL }, seen: { type: LREAL } }
behaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: ${type === 'LREAL' ? 'u' : `${type}_TO_LREAL(u)`} }, outputs: { area: x, seen: ${type === 'LREAL' ? 'u' : `${type}_TO_LREAL(u)`} } }
`,
  'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\ninputs: { u: { to: c.u } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 20 s\n',
  'cases/c.yaml': `case: only\nloop: l\nseed: 7\n${rest}stimuli:\n  u: ${stimulus}\n`,
  ...more,
});
const run = (stimulus: string, type?: string): Trace => runCase(projectOf(documents(stimulus, type))).trace;
const faultsOf = (stimulus: string, type?: string, more = {}): string[] =>
  projectOf(documents(stimulus, type, more)).faults.map((fault) => `${fault.place.line}:${fault.place.column} ${fault.message}`);

/** Value of the input at instants that are not those of a jump. */
function seen(trace: Trace): (t: number) => number {
  const { time, data } = column(trace, 'c.seen');
  return (t) => valueAt({ time, data, held: false }, t);
}

describe('stimuli', () => {
  it('pulse as often as they say, and come back to what was before', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4000 }),
        fc.integer({ min: 1, max: 900 }),
        fc.integer({ min: 1, max: 1000 }),
        fc.integer({ min: 1, max: 8 }),
        (at, width, rest, count) => {
          const trace = run(`[{ hold: 1 }, { pulse: 3, at: ${at} ms, width: ${width} ms, period: ${width + rest} ms, count: ${count} }]`);
          const inPulse = (t: number): boolean => {
            const since = t * 1000 - at;
            const pulse = Math.floor(since / (width + rest));
            return since >= 0 && pulse < count && since - pulse * (width + rest) < width;
          };
          const value = seen(trace);
          for (let i = 0; i < 400; i += 1) {
            const t = 0.00037 + i * 0.0499;
            expect(value(t)).toBe(inPulse(t) ? 3 : 1);
          }
          // What a state gathers is the area under it, to the last pulse.
          const area = column(trace, 'c.area').data.at(-1)!;
          expect(area).toBeCloseTo(20 + (2 * Math.min(count, Math.ceil((20_000 - at) / (width + rest))) * width) / 1000, 9);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('swing as a function of time, which a solver integrates to its own order', () => {
    const trace = run('[{ hold: 2 }, { sine: 1.5, from: 3 s, until: 13 s, period: 4 s, shift: 1 s }]');
    const value = seen(trace);
    for (const t of [1, 2.99]) expect(value(t)).toBe(2);
    for (const t of [13.01, 19]) expect(value(t)).toBe(2);
    // Rows are every 10 ms.
    for (const t of [3.5, 4, 7.25, 12.99]) expect(value(t)).toBeCloseTo(2 + 1.5 * Math.sin(2 * Math.PI * ((t - 3) / 4 + 0.25)), 12);
    // ∫ = 40 + 1.5 · 4/2π · (cos(π/2) − cos(2π · (10/4 + ¼))) over ten seconds; a polygon over the rows would be off by 4e-5.
    const area = column(trace, 'c.area').data.at(-1)!;
    expect(area).toBeCloseTo(40 + ((1.5 * 4) / (2 * Math.PI)) * (Math.cos(Math.PI / 2) - Math.cos(2 * Math.PI * 2.75)), 9);
  });

  it('chirp evenly from one frequency to another', () => {
    const trace = run('[{ chirp: 1, from: 2 s, until: 18 s, periods: [8 s, 500 ms] }]');
    const [low, high] = [1 / 8, 2];
    const value = seen(trace);
    for (const t of [2, 5, 11.11, 17.99]) {
      const since = t - 2;
      expect(value(t)).toBeCloseTo(Math.sin(2 * Math.PI * (low * since + (((high - low) / 16) * since * since) / 2)), 12);
    }
    expect(value(18.5)).toBe(0);
  });

  it('swing on REAL inputs as well, rounded to 32 bits', () => {
    const trace = run('[{ sine: 1.5, from: 0 s, until: 10 s, period: 4 s }]', 'REAL');
    expect(seen(trace)(2.5)).toBe(Math.fround(1.5 * Math.sin((2 * Math.PI * 2.5) / 4)));
  });

  it('walk within their bounds, in steps no larger than said, with the seed of the run', () => {
    const project = projectOf(
      documents('[{ hold: 1 }, { walk: 0.5, from: 1 s, until: 19 s, every: 100 ms, within: [0, 2] }, { step: 5, at: 19 s }]'),
    );
    expect(project.faults).toEqual([]);
    const order = orderRun(project, project.cases[0]!);
    const [first, again] = [performRun(order), performRun(order)];
    expect(again.result.traceHash).toBe(first.result.traceHash);
    expect(performRun(orderRun(project, project.cases[0]!, 8)).result.traceHash).not.toBe(first.result.traceHash);
    const value = seen(first.trace);
    const steps = Array.from({ length: 180 }, (_, k) => value(1.05 + k / 10));
    expect(Math.min(...steps)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...steps)).toBeLessThanOrEqual(2);
    const sizes = steps.slice(1).map((one, k) => Math.abs(one - steps[k]!));
    expect(Math.max(...sizes)).toBeLessThanOrEqual(0.5);
    expect(new Set(steps).size).toBe(180);
    expect([value(0.5), value(19.5)]).toEqual([1, 5]);
  });

  it('follow a table, straight or held', () => {
    const table = '[[2 s, 1], [4 s, 3], [4 s, 0], [6 s, -2]]';
    const [straight, held] = [seen(run(`[{ table: ${table} }]`)), seen(run(`[{ table: ${table}, between: held }]`))];
    expect([1, 3, 5, 7].map(straight)).toEqual([0, 2, -1, -2]);
    expect([1, 3, 5, 7].map(held)).toEqual([0, 1, 0, -2]);
  });

  it('play a column of a recording from when they say', () => {
    const recording = { 'recordings/site.csv': 'time[s],flow[],on[]{hold}\n0,1,0\n2,3,1\n4,2,1\n' };
    const project = projectOf(documents('[{ hold: -1 }, { recording: recordings/site.csv, column: flow, from: 5 s }]', 'LREAL', recording));
    expect(project.faults).toEqual([]);
    const value = seen(runCase(project).trace);
    expect([4, 6, 8, 12].map(value)).toEqual([-1, 2, 2.5, 2]);
  });

  it('one after the other make one course', () => {
    const trace = run(
      '[{ hold: 1 }, { ramp: 2, from: 1 s, until: 2 s }, { sine: 1, from: 3 s, until: 4 s, period: 1 s }, { pulse: 5, at: 5 s, width: 1 s }, { step: 0, at: 8 s }]',
    );
    const value = seen(trace);
    expect([0.5, 1.5, 2.5, 3.25, 4.5, 5.5, 7, 9].map((t) => Number(value(t).toFixed(9)))).toEqual([1, 1.5, 2, 3, 2, 5, 2, 0]);
  });
});

describe('the picture of a course', () => {
  it.each([
    '[{ hold: 1 }, { pulse: 3, at: 2 s, width: 1 s, period: 3 s, count: 3 }]',
    '[{ hold: 2 }, { sine: 1.5, from: 3 s, until: 13 s, period: 4 s }, { step: 4, at: 15 s }]',
    '[{ chirp: 1, from: 2 s, until: 18 s, periods: [8 s, 2 s] }]',
    '[{ hold: 1 }, { walk: 0.5, from: 1 s, until: 19 s, every: 700 ms, within: [0, 2] }]',
    '[{ table: [[2 s, 1], [4 s, 3], [4 s, 0], [6 s, -2]] }]',
  ])('is what the run sees: %s', (stimulus) => {
    const project = projectOf(documents(stimulus));
    const points = drawnCourse(project.cases[0]!.experiment, 0);
    const value = seen(runCase(project).trace);
    // From the begin on, without the value of the face that is never there.
    if (stimulus.includes('hold')) expect(points.filter(([t]) => t === 0)).toHaveLength(1);
    const signal = { time: Float64Array.from(points, ([t]) => t), data: Float64Array.from(points, ([, y]) => y), held: false };
    for (let t = 0.013; t < 20; t += 0.31) expect(valueAt(signal, Math.max(t, points[0]![0]))).toBeCloseTo(value(Math.max(t, points[0]![0])), 2);
  });
});

describe('stimuli that cannot be', () => {
  it.each([
    ['[{ pulse: 3, at: 1 s, width: 2 s, count: 3 }]', '3 pulses need a period.'],
    ['[{ pulse: 3, at: 1 s, width: 2 s, period: 2 s, count: 3 }]', 'A pulse must end before the next one begins.'],
    ['[{ pulse: 30, at: 1 s, width: 2 s }]', 'u = 30 lies outside its limits, -10 … 10.'],
    ['[{ sine: 11, from: 1 s, until: 2 s, period: 1 s }]', 'u = 11 lies outside its limits, -10 … 10.'],
    ['[{ sine: 1, from: 2 s, until: 1 s, period: 1 s }]', 'A sine must end after it begins.'],
    ['[{ step: 1, at: 5 s }, { chirp: 1, from: 2 s, until: 9 s, periods: [1 s, 2 s] }]', 'This begins at 2 s, before the one above has ended (5 s).'],
    ['[{ walk: 1, from: 1 s, until: 9 s, every: 1 s, within: [3, 2] }]', 'The lower bound of a walk must be below its upper one.'],
    ['[{ walk: 1, from: 0 s, until: 9 s, every: 1 us, within: [0, 2] }]', 'This makes 9000000 changes; one input takes at most 1000000.'],
    ['[{ table: [[5 s, 1], [3 s, 2]] }]', 'This begins at 3 s, before the one above has ended (5 s).'],
    ['[{ recording: recordings/none.csv, column: flow }]', 'There is no recording "recordings/none.csv".'],
    ['[{ sine: 1, from: 1 s, until: 2 s }]', '"stimuli.u[0].period" is required.'],
    ['[{ step: 1, at: 1 s, til: 2 s }]', '"til" is not known here.'],
    ['[{ wiggle: 1 }]', 'Must be hold, step, ramp, pulse, sine, chirp, walk, table or recording'],
  ])('%s', (stimulus, message) => expect(faultsOf(stimulus).join('\n')).toContain(message));

  it('are told of inputs that cannot have any value between two', () => {
    const told = faultsOf('[{ hold: FALSE }, { sine: 1, from: 1 s, until: 2 s, period: 1 s }]', 'BOOL');
    expect(told.join('\n')).toMatch(/u is BOOL|u is not REAL or LREAL; it has no sine/);
  });
});

describe('what else looks at a case', () => {
  const walk = '[{ hold: 1 }, { walk: 0.5, from: 1 s, until: 19 s, every: 100 ms, within: [0, 2] }]';

  it('pushes an input that walks or swings as a whole', () => {
    for (const stimulus of [walk, '[{ hold: 1 }, { sine: 1, from: 2 s, until: 15 s, period: 3 s }]']) {
      const { experiment } = projectOf(documents(stimulus)).cases[0]!;
      const found = probe(experiment, { input: 0, at: 4, by: 0.25 });
      const area = found.find((one) => one.name === 'c.area')!;
      // A quarter more from 4 s to 20 s, whatever the input does.
      expect(area.way).toBe('rises');
      expect(area.largest).toBeCloseTo(4, 6);
    }
  });

  it('takes the value of a swinging input at the very instant for the point of a linear view', () => {
    for (const [stimulus, value] of [
      ['[{ hold: 2 }, { sine: 1.5, from: 3 s, until: 13 s, period: 4 s }]', 3.5],
      ['[{ hold: 2 }, { ramp: 6, from: 3 s, until: 7 s }]', 3],
    ] as const) {
      const part = new ContinuousPart(projectOf(documents(stimulus)).cases[0]!.experiment, 4);
      const drive = part.drives.findIndex((one) => one.name.endsWith('u'));
      expect(part.drive(drive)).toBeCloseTo(value, 9);
      // dx/dt is the input itself, also after it has been set.
      expect(part.f(part.x0)[0]).toBeCloseTo(value, 9);
      part.setDrive(drive, value + 0.5);
      expect(part.f(part.x0)[0]).toBeCloseTo(value + 0.5, 9);
    }
  });

  it('rests on a recording that it plays, and on no other', () => {
    const more = { 'recordings/site.csv': 'time[s],flow[]\n0,1\n2,3\n', 'recordings/other.csv': 'time[s],flow[]\n0,1\n2,3\n' };
    const project = projectOf(documents('[{ recording: recordings/site.csv, column: flow }]', 'LREAL', more));
    const rests = restsOn(project.project, project.cases[0]!);
    expect([rests('recordings/site.csv'), rests('recordings/other.csv')]).toEqual([true, false]);
  });
});
