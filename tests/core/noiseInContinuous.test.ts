import { describe, expect, it } from 'vitest';
import { alone, column, runCase } from '../support/project';

const noisy = (period: string): string => `component: Sensor
outputs: { reading: { type: LREAL }, smooth: { type: LREAL } }
behaviour:
  kind: network
  parts:
    noise: { use: noise, period: ${period}, parameters: { mean: 3, deviation: 0.5 } }
    level: { use: sum, inputs: { plus: noise, plus_2: 1 } }
    filter: { use: lag, inputs: { in: noise }, parameters: { t: 2, start: 3 } }
  outputs: { reading: level, smooth: filter }
`;

describe('noise in a continuous network, held through its own period', () => {
  it.each(['runge-kutta-4', 'dormand-prince-54'])('changes at its hits and nowhere else, with its mean and deviation (%s)', (method) => {
    const { trace } = runCase(alone(noisy('100 ms'), 'Sensor', `{ method: ${method}, step: 20 ms }`, '200 s'));
    const { time, data } = column(trace, 'c.reading');
    const changes = [...time].filter((_, row) => row > 0 && data[row] !== data[row - 1]);
    expect(changes.length).toBeGreaterThan(1900);
    for (const t of changes) expect(Math.abs(t / 0.1 - Math.round(t / 0.1))).toBeLessThan(1e-9);
    const values = [...new Set(data)].map((value) => value - 1);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    // Four standard errors of 2,000 draws.
    expect(Math.abs(mean - 3)).toBeLessThan((4 * 0.5) / Math.sqrt(2000));
    expect(Math.abs(deviation - 0.5)).toBeLessThan((4 * 0.5) / Math.sqrt(4000));
  });

  it('acts on what is continuous as a value that is held: a lag is exact between two hits', () => {
    const { trace } = runCase(alone(noisy('500 ms'), 'Sensor', '{ method: dormand-prince-54, step: 500 ms, relative_tolerance: 1e-10 }', '20 s'));
    const [noise, smooth] = [column(trace, 'c.reading'), column(trace, 'c.smooth')];
    let checked = 0;
    for (let row = 0; row + 1 < smooth.time.length; row += 1) {
      const [t, next] = [smooth.time[row] as number, smooth.time[row + 1] as number];
      if (next <= t || noise.data[row] !== noise.data[row + 1]) continue;
      const held = (noise.data[row] as number) - 1;
      const exact = held + ((smooth.data[row] as number) - held) * Math.exp(-(next - t) / 2);
      expect(smooth.data[row + 1]).toBeCloseTo(exact, 8);
      checked += 1;
    }
    expect(checked).toBeGreaterThan(20);
  });
});
