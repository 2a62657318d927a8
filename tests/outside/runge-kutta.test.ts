import { describe, expect, it } from 'vitest';
import { bogackiShampine, dormandPrince } from '@/core/simulate';
import { alone, column, runCase } from '../support/project';

// Source: Hairer, Nørsett, Wanner, Solving Ordinary Differential Equations I, sections II.1 and II.5: order conditions of Runge–Kutta methods.
const classical = { c: [0, 1 / 2, 1 / 2, 1], a: [[], [1 / 2], [0, 1 / 2], [0, 0, 1]], b: [1 / 6, 1 / 3, 1 / 3, 1 / 6] };

interface Tableau {
  readonly c: readonly number[];
  readonly a: readonly (readonly number[])[];
  readonly b: readonly number[];
}

/** Σ b_i φ_i for the rooted trees up to order 5, with the value each must have (1/γ). */
function conditions({ a, b, c }: Tableau, order: number): [sum: number, wanted: number][] {
  const sum = (f: (i: number) => number): number => b.reduce((total, weight, i) => total + weight * f(i), 0);
  const inner = (i: number, f: (j: number) => number): number => (a[i] ?? []).reduce((total, weight, j) => total + weight * f(j), 0);
  const power =
    (exponent: number) =>
    (i: number): number =>
      c[i]! ** exponent;
  const trees: [number, () => number, number][] = [
    [1, () => sum(() => 1), 1],
    [2, () => sum(power(1)), 1 / 2],
    [3, () => sum(power(2)), 1 / 3],
    [3, () => sum((i) => inner(i, power(1))), 1 / 6],
    [4, () => sum(power(3)), 1 / 4],
    [4, () => sum((i) => c[i]! * inner(i, power(1))), 1 / 8],
    [4, () => sum((i) => inner(i, power(2))), 1 / 12],
    [4, () => sum((i) => inner(i, (j) => inner(j, power(1)))), 1 / 24],
    [5, () => sum(power(4)), 1 / 5],
    [5, () => sum((i) => c[i]! ** 2 * inner(i, power(1))), 1 / 10],
    [5, () => sum((i) => inner(i, power(1)) ** 2), 1 / 20],
    [5, () => sum((i) => c[i]! * inner(i, power(2))), 1 / 15],
    [5, () => sum((i) => inner(i, power(3))), 1 / 20],
    [5, () => sum((i) => c[i]! * inner(i, (j) => inner(j, power(1)))), 1 / 30],
    [5, () => sum((i) => inner(i, (j) => c[j]! * inner(j, power(1)))), 1 / 40],
    [5, () => sum((i) => inner(i, (j) => inner(j, power(2)))), 1 / 60],
    [5, () => sum((i) => inner(i, (j) => inner(j, (k) => inner(k, power(1))))), 1 / 120],
  ];
  return trees.filter(([of]) => of <= order).map(([, value, wanted]) => [value(), wanted]);
}

describe('order conditions', () => {
  it.each([
    ['Runge–Kutta 4', classical, 4],
    ['Dormand–Prince, order 5', dormandPrince, 5],
    ['Bogacki–Shampine, order 3', bogackiShampine, 3],
    ['Bogacki–Shampine, embedded order 2', { ...bogackiShampine, b: bogackiShampine.lower }, 2],
    ['Dormand–Prince, embedded order 4', { ...dormandPrince, b: dormandPrince.lower }, 4],
  ] as const)('%s', (_, tableau, order) => {
    for (const [sum, wanted] of conditions(tableau, order)) expect(sum).toBeCloseTo(wanted, 13);
    for (const [i, node] of tableau.c.entries()) expect((tableau.a[i] ?? []).reduce((x, y) => x + y, 0)).toBeCloseTo(node, 13);
  });

  it('Runge–Kutta 4 converges with order 4 when the step is halved', () => {
    const error = (step: string): number => {
      const { trace } = runCase(alone(oscillator, 'Oscillator', `{ method: runge-kutta-4, step: ${step} }`, '8 s'));
      return Math.abs(column(trace, 'c.x').data.at(-1)! - Math.cos(8));
    };
    expect(Math.log2(error('100 ms') / error('50 ms'))).toBeGreaterThan(3.8);
    expect(Math.log2(error('100 ms') / error('50 ms'))).toBeLessThan(4.2);
  });

  it('dense output of Dormand–Prince is as good between steps as at their ends', () => {
    const { trace } = runCase(
      alone(
        oscillator,
        'Oscillator',
        '{ method: dormand-prince-54, step: 10 s, relative_tolerance: 1e-7, absolute_tolerance: 1e-9, record_every: 50 ms }',
        '8 s',
      ),
    );
    const { time, data } = column(trace, 'c.x');
    expect(time.length).toBeGreaterThan(160);
    for (const [i, t] of time.entries()) expect(Math.abs(data[i]! - Math.cos(t))).toBeLessThan(2e-6);
  });
});

const oscillator = `
component: Oscillator
outputs: { x: { type: LREAL } }
behaviour:
  kind: equations
  states: { u: { start: 1 }, w: { start: 0 } }
  derivatives: { u: w, w: -u }
  outputs: { x: u }
`;

// Source: Hull, Enright, Fellen, Sedgwick, SIAM J. Numer. Anal. 9 (1972), problem class A, each from 0 to 20. Closed forms derived here.
const problems = [
  ['A1', '-y', 1, Math.exp(-20)],
  ['A2', '-(y ** 3) / 2', 1, 1 / Math.sqrt(21)],
  ['A3', 'y * COS(time)', 1, Math.exp(Math.sin(20))],
  ['A4', 'y / 4 * (1 - y / 20)', 1, 20 / (1 + 19 * Math.exp(-5))],
] as const;

describe('non-stiff test problems', () => {
  it.each(problems)('%s', (_, right, start, wanted) => {
    const text = `component: Problem\noutputs: { out: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { y: { start: ${start} } }\n  derivatives: { y: "${right}" }\n  outputs: { out: y }\n`;
    const error = (tolerance: number): number => {
      const { trace } = runCase(
        alone(
          text,
          'Problem',
          `{ method: dormand-prince-54, step: 20 s, relative_tolerance: ${tolerance}, absolute_tolerance: ${tolerance} }`,
          '20 s',
        ),
      );
      return Math.abs(column(trace, 'c.out').data.at(-1)! - wanted);
    };
    const [coarse, fine] = [error(1e-5), error(1e-9)];
    expect(fine).toBeLessThan(1e-7);
    // A fixed error per unit tolerance: the slope of log error against log tolerance is about 1.
    expect(Math.log10(Math.max(coarse, 1e-15) / Math.max(fine, 1e-15)) / 4).toBeGreaterThan(0.6);
  });
});

describe('emptying of a tank through an orifice', () => {
  // Source: hydraulics handbooks, from Torricelli's law: t = 2 A (√h₁ − √h₂) / (c a √(2 g)).
  it('takes the time of the closed form', () => {
    const [area, orifice, c, g] = [212.8, 0.84, 0.62, 9.81];
    const text = `component: Tank\noutputs: { level: { type: LREAL, unit: m } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 2.9, unit: m } }\n  derivatives: { h: "-${c} * ${orifice} * SQRT(2 * ${g} * MAX(h, 0)) / ${area}" }\n  outputs: { level: h }\n`;
    const wanted = (2 * area * (Math.sqrt(2.9) - Math.sqrt(0.1))) / (c * orifice * Math.sqrt(2 * g));
    const { trace } = runCase(
      alone(text, 'Tank', '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-9, absolute_tolerance: 1e-11 }', '400 s'),
    );
    const { time, data } = column(trace, 'c.level');
    const after = data.findIndex((h) => h <= 0.1);
    const [ta, tb, ha, hb] = [time[after - 1]!, time[after]!, data[after - 1]!, data[after]!];
    // √h falls along a straight line, so the crossing is found exactly between two rows.
    const reached = ta + ((tb - ta) * (Math.sqrt(ha) - Math.sqrt(0.1))) / (Math.sqrt(ha) - Math.sqrt(hb));
    expect(Math.abs(reached / wanted - 1)).toBeLessThan(1e-6);
  });
});
