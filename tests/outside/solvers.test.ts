import { Solver as Extrapolation } from 'odex';
import { describe, expect, it } from 'vitest';
import { type Derivative, type Integrator, integratorOf } from '@/core/simulate';

/**
 * Sources. Orders and the restricted three-body orbit: Hairer, Nørsett, Wanner, Solving Ordinary Differential Equations I (II.0, II.10). Van der Pol and Robertson:
 * Hairer and Wanner, volume II. Problems A to D: Hull, Enright, Fellen, Sedgwick, SIAM J. Numer. Anal. 9 (1972). Figures of the book's driver and reference digits are from memory.
 * Errors of the reference implementation: the book's own driver (Fortran, DOPRI5) as scipy 1.17.1 calls it, relative and absolute tolerance the same, against its DOP853 at 1e-13; computed for this file.
 */
type Vector = number[] | Float64Array;
type Equations = (t: number, x: Vector) => number[];
const variable = ['bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'] as const;
type Variable = (typeof variable)[number];

function solverOf(method: Variable, f: Equations, start: readonly number[], until: number, tolerance: number, absolute = tolerance): Integrator {
  const derivative: Derivative = (t, x, dx) => dx.set(f(t, x));
  const solver = integratorOf(method, start.length, derivative, { relative: tolerance, absolute, largestStep: until }, () => false)!;
  solver.x.set(start);
  return solver;
}

function solve(method: Variable, f: Equations, start: readonly number[], until: number, tolerance: number, absolute = tolerance): Integrator {
  const solver = solverOf(method, f, start, until, tolerance, absolute);
  solver.integrate(0, until, () => false);
  return solver;
}

/** By a method of another family, from the registry (Gragg, Bulirsch, Stoer extrapolation). */
function crossCheck(f: Equations, start: readonly number[], until: number, from = 0): number[] {
  const solver = new Extrapolation(start.length);
  Object.assign(solver, { absoluteTolerance: 1e-13, relativeTolerance: 1e-13, maxSteps: 100_000 });
  return [...solver.solve(f, from, [...start], until).y];
}

const distance = (a: ArrayLike<number>, b: ArrayLike<number>): number => Math.max(...Array.from(a, (value, i) => Math.abs(value - b[i]!)));

const logistic: Equations = (_, [x = 0]) => [(x / 4) * (1 - x / 20)];
const planet: Equations = (_, [x = 0, y = 0, u = 0, v = 0]) => {
  const r3 = (x * x + y * y) ** 1.5;
  return [u, v, -x / r3, -y / r3];
};
/** On its orbit of eccentricity e, a = 1: Kepler's equation E − e sin E = t by Newton's method. */
function orbitAt(e: number, t: number): number[] {
  let anomaly = t;
  for (let i = 0; i < 100; i += 1) anomaly -= (anomaly - e * Math.sin(anomaly) - t) / (1 - e * Math.cos(anomaly));
  const [b, r] = [Math.sqrt(1 - e * e), 1 - e * Math.cos(anomaly)];
  return [Math.cos(anomaly) - e, b * Math.sin(anomaly), -Math.sin(anomaly) / r, (b * Math.cos(anomaly)) / r];
}
const torus: Equations = (_, [x = 0, y = 0, z = 0]) => {
  const r = Math.hypot(x, y);
  return [-y - (x * z) / r, x - (y * z) / r, x / r];
};
/** Five outer planets (masses in suns, lengths in astronomical units, time in 100 days), all figures from memory. */
const planets = [
  { mass: 0.000954786104043, at: [3.42947415189, 3.35386959711, 1.35494901715], speed: [-0.557160570446, 0.505696783289, 0.230578543901] },
  { mass: 0.000285583733151, at: [6.6414554255, 5.97156957878, 2.18231499728], speed: [-0.415570776342, 0.365682722812, 0.169143213293] },
  { mass: 0.0000437273164546, at: [11.2630437207, 14.6952576794, 6.27960525067], speed: [-0.325325669158, 0.189706021964, 0.087726532278] },
  { mass: 0.0000517759138449, at: [-30.1552268759, 1.65699966404, 1.43785752721], speed: [-0.024047625417, -0.287659532608, -0.117219543175] },
  { mass: 0.00000277777777778, at: [-21.123835338, 28.4465098142, 15.3882659679], speed: [-0.176860753121, -0.216393453025, -0.014864789309] },
];
const [gravity, sun] = [2.95912208286, 1.00000597682];
const outerPlanets: Equations = (_, x) => {
  const place = (j: number): number[] => [0, 1, 2].map((i) => x[3 * j + i]!);
  const length = (v: readonly number[]): number => Math.hypot(...v);
  const pulls = planets.flatMap(({ mass }, j) =>
    [0, 1, 2].map((i) => {
      const own = place(j);
      const others = planets.reduce((sum, other, k) => {
        if (k === j) return sum;
        const there = place(k);
        const apart = length(there.map((value, axis) => value - own[axis]!));
        return sum + other.mass * ((there[i]! - own[i]!) / apart ** 3 - there[i]! / length(there) ** 3);
      }, 0);
      return gravity * ((-(sun + mass) * own[i]!) / length(own) ** 3 + others);
    }),
  );
  return [...Array.from(x).slice(15), ...pulls];
};
const first = (size: number): number[] => Array.from({ length: size }, (_, i) => (i === 0 ? 1 : 0));

const problems: readonly (readonly [name: string, f: Equations, start: readonly number[]])[] = [
  ['A1', (_, [x = 0]) => [-x], [1]],
  ['A2', (_, [x = 0]) => [-(x ** 3) / 2], [1]],
  ['A3', (t, [x = 0]) => [x * Math.cos(t)], [1]],
  ['A4', logistic, [1]],
  ['A5', (t, [x = 0]) => [(x - t) / (x + t)], [4]],
  ['B1', (_, [x = 0, y = 0]) => [2 * (x - x * y), -(y - x * y)], [1, 3]],
  ['B2', (_, [x = 0, y = 0, z = 0]) => [-x + y, x - 2 * y + z, y - z], [2, 0, 1]],
  ['B3', (_, [x = 0, y = 0]) => [-x, x - y * y, y * y], [1, 0, 0]],
  ['B4', torus, [3, 0, 0]],
  ['B5', (_, [x = 0, y = 0, z = 0]) => [y * z, -x * z, -0.51 * x * y], [0, 1, 1]],
  ['C1', (_, x) => first(10).map((__, i) => (i > 0 ? x[i - 1]! : 0) - (i < 9 ? x[i]! : 0)), first(10)],
  ['C2', (_, x) => first(10).map((__, i) => (i > 0 ? i * x[i - 1]! : 0) - (i < 9 ? (i + 1) * x[i]! : 0)), first(10)],
  ['C3', (_, x) => first(10).map((__, i) => (x[i - 1] ?? 0) - 2 * x[i]! + (x[i + 1] ?? 0)), first(10)],
  ['C4', (_, x) => first(51).map((__, i) => (x[i - 1] ?? 0) - 2 * x[i]! + (x[i + 1] ?? 0)), first(51)],
  ['C5', outerPlanets, [...planets.flatMap((one) => one.at), ...planets.flatMap((one) => one.speed)]],
  ...[0.1, 0.3, 0.5, 0.7, 0.9].map((e, i) => [`D${i + 1}`, planet, [1 - e, 0, 0, Math.sqrt((1 + e) / (1 - e))]] as const),
];

describe('problems A to D', () => {
  it.each(problems)('%s: the end agrees with a method of another family', (_, f, start) => {
    const reference = crossCheck(f, start, 20);
    expect(distance(solve('dormand-prince-54', f, start, 20, 1e-12).x, reference)).toBeLessThan(1e-8);
  });

  // At 1e-4, 1e-6 and 1e-8.
  const ofTheDriver: Readonly<Record<string, readonly [number, number, number]>> = {
    A1: [1.96e-6, 9.24e-9, 3.63e-10],
    A2: [2.93e-5, 3.79e-7, 3.08e-9],
    A3: [1.02e-3, 8.88e-6, 8.12e-8],
    A4: [2.99e-4, 1.65e-6, 5.9e-10],
    A5: [2.94e-4, 5.92e-6, 6.68e-8],
    B1: [2.25e-3, 1.49e-5, 1.85e-7],
    B2: [9.88e-5, 7.36e-7, 3.52e-10],
    B3: [2.59e-6, 9.93e-8, 2.52e-9],
    B4: [1.15e-2, 6.87e-6, 8.18e-8],
    B5: [1.08e-3, 5.23e-6, 7.67e-8],
    C1: [9.27e-6, 1.92e-7, 5.64e-9],
    C2: [9.81e-5, 6.28e-7, 1.25e-8],
    C3: [2.28e-5, 1.66e-7, 1.33e-9],
    C4: [1.94e-5, 8.95e-7, 2.95e-9],
    C5: [7.75e-3, 8.99e-5, 5.12e-7],
    D1: [4.07e-1, 6.11e-4, 8.91e-7],
    D2: [1.61e-1, 9.54e-4, 4.36e-7],
    D3: [1.06e-1, 4.99e-4, 4.86e-7],
    D4: [7.54e-2, 3.93e-4, 3.98e-7],
    D5: [1.21e-1, 4.19e-4, 3.69e-7],
  };
  it.each(problems)("%s: the error is at most twice that of the book's driver at the same tolerance", (name, f, start) => {
    const reference = crossCheck(f, start, 20);
    const ratios = [1e-4, 1e-6, 1e-8].map(
      (tolerance, index) => distance(solve('dormand-prince-54', f, start, 20, tolerance).x, reference) / ofTheDriver[name]![index]!,
    );
    expect(Math.max(...ratios)).toBeLessThan(2);
  });

  /** The solution at 1, 2 … 20: of the orbits by Kepler's equation, of the others by a method of another family. */
  const along = (name: string, f: Equations, start: readonly number[]): number[][] => {
    const times = Array.from({ length: 20 }, (_, i) => i + 1);
    if (name.startsWith('D')) return times.map((t) => orbitAt(1 - start[0]!, t));
    let x = [...start];
    return times.map((t) => {
      x = crossCheck(f, x, t, t - 1);
      return x;
    });
  };
  /** As in the paper, the largest error along the way counts: at the end some solutions have died away. */
  const worst = (method: Variable, f: Equations, start: readonly number[], tolerance: number, solution: readonly number[][]): number => {
    const solver = solverOf(method, f, start, 20, tolerance);
    const at = new Float64Array(start.length);
    let [largest, second] = [0, 1];
    solver.integrate(0, 20, (t) => {
      for (; second < 20 && second <= t; second += 1) {
        solver.inside(second, at);
        largest = Math.max(largest, distance(at, solution[second - 1]!));
      }
      return false;
    });
    return Math.max(largest, distance(solver.x, solution[19]!));
  };
  const slope = (points: readonly (readonly [number, number])[]): number => {
    const mean = (of: (one: readonly [number, number]) => number): number => points.reduce((sum, one) => sum + of(one), 0) / points.length;
    const [mx, my] = [mean(([x]) => x), mean(([, y]) => y)];
    return mean(([x, y]) => (x - mx) * (y - my)) / mean(([x]) => (x - mx) ** 2);
  };

  // In the stretch of tolerances in which the steps are short enough for the method to have its order. On eccentric orbits the stiff method, with ten times the steps, comes to its round-off there.
  it.each(
    variable.flatMap((method) =>
      problems.filter(([name]) => method !== 'rosenbrock-43' || !name.startsWith('D')).map(([name, f, start]) => [method, name, f, start] as const),
    ),
  )('%s, %s: ten times the tolerance means about ten times the error', (method, name, f, start) => {
    const solution = along(name, f, start);
    const found = slope(
      [1e-6, 1e-7, 1e-8, 1e-9, 1e-10, 1e-11].map((tolerance) => [Math.log10(tolerance), Math.log10(worst(method, f, start, tolerance, solution))]),
    );
    expect(found).toBeGreaterThan(0.8);
    expect(found).toBeLessThan(1.25);
  });
});

describe('orders with a fixed number of equal steps', () => {
  // The tolerance is so wide that only the largest step counts.
  const error = (method: Variable, steps: number): number => {
    const solver = integratorOf(
      method,
      1,
      (t, x, dx) => dx.set([x[0]! * Math.cos(t)]),
      { relative: 1e6, absolute: 1e6, largestStep: 2 / steps },
      () => false,
    )!;
    solver.x.set([1]);
    // A fresh interval for each step, so that none is stretched.
    for (let i = 0; i < steps; i += 1) solver.integrate((2 * i) / steps, (2 * (i + 1)) / steps, () => false);
    return Math.abs(solver.x[0]! - Math.exp(Math.sin(2)));
  };
  it.each([
    ['bogacki-shampine-32', 3],
    ['dormand-prince-54', 5],
    ['rosenbrock-43', 4],
  ] as const)('%s has order %i', (method, order) => {
    expect(Math.log2(error(method, 40) / error(method, 80))).toBeCloseTo(order, 0);
  });
});

describe('the restricted three-body orbit', () => {
  const mu = 0.012277471;
  const orbit: Equations = (_, [x = 0, y = 0, u = 0, v = 0]) => {
    const d1 = ((x + mu) ** 2 + y ** 2) ** 1.5;
    const d2 = ((x - (1 - mu)) ** 2 + y ** 2) ** 1.5;
    return [u, v, x + 2 * v - ((1 - mu) * (x + mu)) / d1 - (mu * (x - (1 - mu))) / d2, y - 2 * u - ((1 - mu) * y) / d1 - (mu * y) / d2];
  };
  const start = [0.994, 0, 0, -2.0015851063790824];
  const period = 17.065216560157964;

  it('closes', () => {
    const { x } = solve('dormand-prince-54', orbit, start, period, 1e-10);
    expect(Math.hypot(x[0]! - start[0]!, x[1]! - start[1]!)).toBeLessThan(1e-6);
  });

  it('costs no more than the driver of the book at 1e-7: 1,442 evaluations in 240 steps (from memory)', () => {
    const { effort } = solve('dormand-prince-54', orbit, start, period, 1e-7);
    expect(effort.evaluations).toBeLessThan(1.1 * 1442);
  });
});

describe('stiff equations', () => {
  const vanDerPol: Equations = (_, [x = 0, y = 0]) => [y, 1000 * 1000 * ((1 - x * x) * y) - 1000 * 1000 * x];
  it('van der Pol in scaled time, ε = 1e-6: the reference digits at t = 2, in far fewer steps than the explicit method', () => {
    // Hairer and Wanner II, IV.10: ε y'' = (1 − y²) y' − y, y(0) = 2, y'(0) = −0.66; at t = 2: 1.706167732, −0.8928097010.
    const { x, effort } = solve('rosenbrock-43', vanDerPol, [2, -0.66], 2, 1e-8);
    expect(x[0]).toBeCloseTo(1.706167732170469, 6);
    expect(x[1]).toBeCloseTo(-0.8928097010248125, 5);
    const explicit = solve('dormand-prince-54', vanDerPol, [2, -0.66], 0.02, 1e-8);
    // Over a hundredth of the time.
    expect(effort.accepted).toBeLessThan(explicit.effort.accepted / 2);
  });

  it('Robertson: the reference digits at t = 40', () => {
    const f: Equations = (_, [a = 0, b = 0, c = 0]) => [-0.04 * a + 1e4 * b * c, 0.04 * a - 1e4 * b * c - 3e7 * b * b, 3e7 * b * b];
    const { x, effort } = solve('rosenbrock-43', f, [1, 0, 0], 40, 1e-8, 1e-12);
    expect(x[0]).toBeCloseTo(0.7158271, 6);
    expect(x[1]! * 1e5).toBeCloseTo(0.9185535, 5);
    expect(x[2]).toBeCloseTo(0.2841637, 6);
    expect(effort.accepted).toBeLessThan(300);
  });
});

describe('inside a step', () => {
  it.each(variable)('%s: dense output keeps to the solution', (method) => {
    const solver = integratorOf(
      method,
      1,
      (t, x, dx) => dx.set([x[0]! * Math.cos(t)]),
      { relative: 1e-7, absolute: 1e-7, largestStep: 1 },
      () => false,
    )!;
    solver.x.set([1]);
    const found = new Float64Array(1);
    let from = 0;
    let worst = 0;
    solver.integrate(0, 10, (t) => {
      for (const share of [0.2, 0.5, 0.8]) {
        solver.inside(from + share * (t - from), found);
        worst = Math.max(worst, Math.abs(found[0]! - Math.exp(Math.sin(from + share * (t - from)))));
      }
      from = t;
      return false;
    });
    expect(worst).toBeLessThan(2e-5);
  });
});
