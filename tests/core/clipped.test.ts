import { describe, expect, it } from 'vitest';
import { projectOf, runCase } from '../support/project';

/** A tank that runs dry at 5 s and whose level, but for the limit, would go on below its floor. */
function tank(output: string, head = ''): ReturnType<typeof runCase>['result']['clipped'] {
  const project = projectOf({
    'components/t.yaml': `component: Tank\n${head}outputs: { level: { type: LREAL, unit: m } }\nparameters: { floor: { value: 0, unit: m } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 1, unit: m } }\n  derivatives: { h: "-0.2" }\n  outputs: { level: "${output}" }\n`,
    'loops/l.yaml': 'loop: l\ncomponents: { t: { use: Tank } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 8 s\n',
    'cases/c.yaml': 'case: only\nloop: l\n',
  });
  return runCase(project).result.clipped;
}

describe('a plant that a limiter keeps believable', () => {
  it.each(['MAX(h, 0.0)', 'MAX(h - floor, 0.0)', 'MAX(h + 0.0 * time, 0.0)', 'LIMIT(0.0, h, 5.0)', 'MIN(MAX(0.0, h), 9.0)'])(
    'says for how long: %s',
    (output) => {
      const [one, ...others] = tank(output);
      expect(others).toEqual([]);
      expect(one?.signal).toBe('t.level');
      expect(one?.seconds).toBeCloseTo(3, 6);
      expect(one?.message).toMatch(/^t\.level stood at a limit for 3 s: .* only because it is clipped/);
    },
  );

  it('says nothing where nothing is clipped, or where the limit is an end stop', () => {
    expect(tank('h')).toEqual([]);
    expect(tank('LIMIT(-5.0, h, 5.0)')).toEqual([]);
    // At the limit by itself, at the start and for as long as nothing moves it.
    expect(tank('LIMIT(0.0, h - h, 5.0)')).toEqual([]);
    expect(tank('MIN(MAX(h, -0.6), 1.0)')).toEqual([]);
    expect(tank('MAX(h, 0.0)', 'end_stops: true\n')).toEqual([]);
  });
});
