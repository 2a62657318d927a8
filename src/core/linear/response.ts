import { Matrix, solve } from 'ml-matrix';
import { exponential } from './exponential';
import type { LinearSystem } from './linearise';
import type { Pole } from './poles';

export interface Complex {
  readonly re: number;
  readonly im: number;
}

/** The answer of one output to one input at a frequency (rad/s): C (jωI − A)⁻¹ B + D. */
export function answerAt({ a, b, c, d }: LinearSystem, omega: number, input = 0, output = 0): Complex {
  const n = a.rows;
  const direct = d.get(output, input);
  if (n === 0) return { re: direct, im: 0 };
  // (jωI − A)(p + jq) = B in real numbers.
  const whole = Matrix.zeros(2 * n, 2 * n);
  const right = Matrix.zeros(2 * n, 1);
  for (let row = 0; row < n; row += 1) {
    for (let column = 0; column < n; column += 1) {
      whole.set(row, column, -a.get(row, column));
      whole.set(n + row, n + column, -a.get(row, column));
    }
    whole.set(row, n + row, -omega);
    whole.set(n + row, row, omega);
    right.set(row, 0, b.get(row, input));
  }
  const x = solve(whole, right);
  let [re, im] = [direct, 0];
  for (let index = 0; index < n; index += 1) {
    re += c.get(output, index) * x.get(index, 0);
    im += c.get(output, index) * x.get(n + index, 0);
  }
  return { re, im };
}

/** A point of a frequency response: gain as a factor, phase in degrees without jumps. */
export interface FrequencyPoint {
  readonly omega: number;
  readonly gain: number;
  readonly phase: number;
}

const pointsPerDecade = 60;

/** From well below the slowest pole to well above the fastest, in equal steps of the logarithm. */
export function frequencyResponse(system: LinearSystem, poles: readonly Pole[], input = 0, output = 0): FrequencyPoint[] {
  const speeds = poles.map((pole) => pole.frequency).filter((speed) => speed > 1e-9);
  const low = Math.log10(Math.min(1, ...speeds)) - 2;
  const high = Math.log10(Math.max(1, ...speeds)) + 2;
  const count = Math.ceil((high - low) * pointsPerDecade);
  let before: number | undefined;
  return Array.from({ length: count + 1 }, (_, index) => {
    const omega = 10 ** (low + ((high - low) * index) / count);
    const { re, im } = answerAt(system, omega, input, output);
    let phase = (Math.atan2(im, re) * 180) / Math.PI;
    if (before !== undefined) phase += 360 * Math.round((before - phase) / 360);
    before = phase;
    return { omega, gain: Math.hypot(re, im), phase };
  });
}

/** Answer to a unit step at 0, exact at equal instants; long enough for the slowest stable pole to settle, or ten times the fastest growth. */
export function stepResponse(system: LinearSystem, poles: readonly Pole[], input = 0, output = 0, points = 400): { time: number[]; value: number[] } {
  const speeds = poles.map((pole) => Math.abs(pole.re)).filter((speed) => speed > 1e-6);
  const until = speeds.length > 0 ? 6 / Math.min(...speeds) : 10;
  const step = until / points;
  const n = system.a.rows;
  const time: number[] = [];
  const value: number[] = [];
  const sampling = n > 0 ? held(system, step) : undefined;
  let x = Matrix.zeros(n, 1);
  for (let index = 0; index <= points; index += 1) {
    time.push(index * step);
    let y = system.d.get(output, input);
    for (let state = 0; state < n; state += 1) y += system.c.get(output, state) * x.get(state, 0);
    value.push(y);
    if (sampling) x = sampling.ad.mmul(x).add(sampling.bd.subMatrixColumn([input], 0, n - 1));
  }
  return { time, value };
}

/** State after one period with the input held: e^{AT} and ∫ e^{At} B dt, from one exponential (Van Loan 1978), for a system with states. */
export function held({ a, b }: LinearSystem, period: number): { ad: Matrix; bd: Matrix } {
  const [n, m] = [a.rows, b.columns];
  const joined = Matrix.zeros(n + m, n + m);
  joined.setSubMatrix(a, 0, 0);
  joined.setSubMatrix(b, 0, n);
  const whole = exponential(joined.mul(period));
  return { ad: whole.subMatrix(0, n - 1, 0, n - 1), bd: whole.subMatrix(0, n - 1, n, n + m - 1) };
}
