import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

/** An event is found at the first nanosecond at which it has happened, so the second one is up to two late. */
const near = 4e-9;

/** A level that rises by 1 m/s and falls to 0 where it comes to `top`; what it does is known at every instant. */
const tank = (method: string, more = '', top = '2.5'): ReturnType<typeof runCase> =>
  runCase(
    projectOf({
      'components/tank.yaml': `component: Tank
outputs: { level: { type: LREAL, unit: m } }
behaviour: { kind: equations, states: { h: { start: 0 } }, derivatives: { h: "1.0" }, outputs: { level: h }, events: [{ when: "h >= ${top}", set: { h: "0.0" } }] }
`,
      'loops/l.yaml': `loop: l\ncomponents: { t: { use: Tank } }\nsolver: { method: ${method}${more} }\nstop: 6 s\n`,
      'cases/c.yaml': 'case: only\nloop: l\n',
    }),
  );

describe.each(['dormand-prince-54', 'bogacki-shampine-32', 'rosenbrock-43'])('%s', (method) => {
  it('finds events to a nanosecond, with the values before and after them', () => {
    const { time, data } = column(tank(method).trace, 't.level');
    for (const at of [2.5, 5]) {
      const rows = [...time.keys()].filter((row) => Math.abs(time[row]! - at) < near);
      expect(rows.length).toBeGreaterThanOrEqual(2);
      expect(data[rows[0]!]).toBeCloseTo(2.5, 8);
      expect(data[rows.at(-1)!]).toBe(0);
    }
    // Everywhere else the level is the time since the last event.
    time.forEach((t, row) => {
      if ([2.5, 5].every((at) => Math.abs(t - at) > near)) expect(data[row]).toBeCloseTo(t % 2.5, 7);
    });
    expect(time.at(-1)).toBe(6);
  });

  it('records on a raster, exactly at its points, besides its own steps', () => {
    const { time, data } = column(tank(method, ', record_every: 250 ms').trace, 't.level');
    for (let point = 0; point * 0.25 <= 6; point += 1) {
      const row = time.indexOf(point * 0.25);
      expect(row, `${point * 0.25} s`).toBeGreaterThanOrEqual(0);
      if (point % 10 !== 0) expect(data[row]).toBeCloseTo((point * 0.25) % 2.5, 7);
    }
    expect([...time].every((t, row) => row === 0 || t >= time[row - 1]!)).toBe(true);
  });

  it('ends with a reason where events follow each other without end', () => {
    const { result } = tank(method, '', '0.0');
    expect(result.error?.at ?? 0).toBeGreaterThanOrEqual(0);
    const stuck = tank(method, '', '1e-9');
    expect(stuck.result.error?.message ?? '').toMatch(/event|end/i);
  });
});
