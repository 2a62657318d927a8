import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareTraces, trustedLoop } from '@/core/compare';
import { checkProject, discountOf, orderRun, performRun } from '@/core/project';
import { projectOf, runCase } from '../support/project';

const tank = `component: Tank
inputs: { inflow: { type: LREAL, unit: m/s, min: 0, max: 1 } }
outputs: { level: { type: LREAL, unit: m, min: 0, max: 9 } }
behaviour:
  kind: equations
  states: { h: { start: 0 } }
  derivatives: { h: "FLOW" }
  outputs: { level: h }
`;
const loop =
  'loop: tank\ncomponents: { tank: { use: Tank } }\ninputs: { inflow: { to: tank.inflow } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 30 s\n';
const documents = (flow = 'inflow', text = loop, hold = 0.1): Record<string, string> => ({
  'components/tank.yaml': tank.replace('FLOW', flow),
  'loops/tank.yaml': text,
  'cases/fill.yaml': `case: fill\nloop: tank\nstimuli: { inflow: [{ hold: ${hold} }] }\n`,
  'requirements/r.yaml':
    'section: R\nrequirements:\n  - requirement: R-1\n    text: t\n    criteria:\n      - { criterion: c, sentence: always tank.level <= 5 m, accepted: { by: t, on: "2026-11-25" } }\n',
});
/** The thing itself overflows slowly above two metres. */
const compared = () => {
  const model = runCase(projectOf(documents())).trace;
  const thing = runCase(projectOf(documents('inflow - SEL(h > 2.0, 0.0, 0.08)'))).trace;
  return compareTraces(model, thing, { absolute: 0.02, relative: 0, ripple: 0, turns: {} })!.signals.find((one) => one.name === 'tank.level')!;
};

describe('where a plant is trusted', () => {
  it('is the longest span of values in which a comparison never parts', () => {
    const { agrees, between } = compared();
    expect(agrees).toBe(false);
    expect(between!.low).toBe(0);
    expect(between!.high).toBeGreaterThan(1.95);
    expect(between!.high).toBeLessThan(2.1);
  });

  it('never holds a value at which they part, however the curve runs', () => {
    const wave = (t: number): number => Math.sin(t / 3) * 2 + 0.3 * Math.sin(2.3 * t);
    const time = Float64Array.from({ length: 400 }, (_, i) => i / 10);
    const traceOf = (f: (t: number) => number) => ({
      bases: [time],
      columns: [{ name: 'x', slot: 0, base: 0, between: 'straight' as const, type: 'LREAL' as const, unit: '', data: time.map(f) }],
      marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() },
      from: 0,
      until: 39.9,
    });
    fc.assert(
      fc.property(fc.double({ min: -1.5, max: 1.5, noNaN: true }), (edge) => {
        const off = (t: number): number => wave(t) + (wave(t) > edge ? 0.5 : 0);
        const { between } = compareTraces(traceOf(wave), traceOf(off), { absolute: 0.1, relative: 0, ripple: 0, turns: {} })!.signals[0]!;
        expect(between!.high).toBeLessThanOrEqual(edge + 0.2);
      }),
      { numRuns: 30 },
    );
  });

  it('written into the loop, it takes the pass from a run that leaves it, and says why', () => {
    const written = trustedLoop({ path: 'loops/tank.yaml', text: loop }, compared(), 'compared with site.csv, within 2 cm')!;
    const project = projectOf(documents('inflow', written.text));
    expect(project.faults).toEqual([]);
    const { result } = performRun(orderRun(project, project.cases[0]!));
    expect(result.verdict).toBe('pass');
    expect(discountOf(result)).toMatch(
      /^plant not believable in "fill": tank\.level 2\.\d+ m at 2\d(\.\d)? s; the plant is trusted from 0 to 2(\.\d+)?: compared with site\.csv, within 2 cm$/,
    );
    const inside = projectOf(documents('inflow', written.text, 0.05));
    expect(discountOf(performRun(orderRun(inside, inside.cases[0]!)).result)).toBeUndefined();
  });

  it('changes the fingerprint of results only when something is said', () => {
    const of = (text: string): string => runCase(projectOf(documents('inflow', text))).result.fingerprint;
    expect(of(`${loop}trusted: []\n`)).toBe(of(loop));
    expect(of(`${loop}trusted: [{ signal: tank.level, from: 0, until: 2, because: x }]\n`)).not.toBe(of(loop));
  });

  it('names what is wrong with it', () => {
    const files = Object.entries({
      'project.yaml': 'project: P',
      ...documents(
        'inflow',
        `${loop}trusted:\n  - { signal: tank.levle, from: 0, until: 2, because: x }\n  - { signal: tank.level, from: 3, until: 2, because: x }\n`,
      ),
    });
    const told = checkProject(files.map(([path, text]) => ({ path, text }))).faults.map(
      (fault) => `${fault.place.file}:${fault.place.line} ${fault.message} ${fault.fix}`,
    );
    expect(told).toEqual([
      'loops/tank.yaml:7 There is no signal "tank.levle" in this loop. Did you mean "tank.level"?',
      'loops/tank.yaml:8 The span 3 … 2 is empty. Give until: a value above from:.',
    ]);
  });
});
