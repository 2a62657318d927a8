import generalCos from '@stdlib/math-base-special-cos';
import generalSin from '@stdlib/math-base-special-sin';
import { describe, expect, it } from 'vitest';
import { numeric } from '@/core/numeric';
import { alone, column, runCase } from '../support/project';

// Source: IEEE 754 and the accuracy FreeBSD's msun states for its functions (under 1 unit in the last place); the engine's own functions serve as an
// independent implementation. The constants are those of the ECMAScript standard.
const ulp = (x: number): number => Math.max(Number.MIN_VALUE, Math.abs(x) * Number.EPSILON);

describe('elementary functions', () => {
  const arguments_ = Array.from({ length: 400 }, (_, i) => (i - 200) * 0.173 + 0.0071);
  it.each([
    ['sin', numeric.sin, Math.sin, arguments_],
    ['cos', numeric.cos, Math.cos, arguments_],
    ['tan', numeric.tan, Math.tan, arguments_],
    ['atan', numeric.atan, Math.atan, arguments_],
    ['exp', numeric.exp, Math.exp, arguments_],
    ['ln', numeric.ln, Math.log, arguments_.map(Math.abs)],
    ['log10', numeric.log10, Math.log10, arguments_.map(Math.abs)],
    ['asin', numeric.asin, Math.asin, arguments_.map((x) => x / 40)],
    ['acos', numeric.acos, Math.acos, arguments_.map((x) => x / 40)],
  ] as const)('%s agrees with an independent implementation to 2 units in the last place', (_, ours, other, at) => {
    for (const x of at) expect(Math.abs(ours(x) - other(x))).toBeLessThanOrEqual(2 * ulp(other(x)));
  });

  it('sine and cosine of small angles are, bit for bit, those of the general functions and their C twin', () => {
    let x = -0.8;
    for (let i = 0; i < 200_000; i += 1) {
      x += 8e-6;
      for (const angle of [x, x * 1e-3, x * 1e-6, x * 1e-8])
        if (numeric.sin(angle) !== generalSin(angle) || numeric.cos(angle) !== generalCos(angle)) expect.fail(`differs at ${angle}`);
    }
  });

  it.each([
    ['e', numeric.exp(1), Math.E],
    ['ln 2', numeric.ln(2), Math.LN2],
    ['√2', numeric.pow(2, 0.5), Math.SQRT2],
    ['π', 4 * numeric.atan(1), Math.PI],
    ['ln 10', numeric.ln(10), Math.LN10],
  ])('gives %s to the last place', (_, ours, wanted) => expect(Math.abs(ours - wanted)).toBeLessThanOrEqual(2 * ulp(wanted) * 1.01));
});

describe('levels of a lock chamber', () => {
  // Source: hydraulics handbooks: a chamber of constant plan filled from a constant reach through submerged openings becomes level after
  // t = 2 A √H / (c a √(2 g)). The demo's numbers: 212.8 m², 0.84 m², 0.62, H = 2.9 m give 314.2 s.
  it('are equal after the time of the closed form', () => {
    const [A, a, c, g, H] = [212.8, 0.84, 0.62, 9.81, 2.9];
    const wanted = (2 * A * Math.sqrt(H)) / (c * a * Math.sqrt(2 * g));
    const text = `component: Lock\noutputs: { gap: { type: LREAL, unit: m } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 1, unit: m } }\n  derivatives: { h: "${c} * ${a} * SQRT(2 * ${g} * MAX(3.9 - h, 0)) / ${A}" }\n  outputs: { gap: 3.9 - h }\n`;
    const { trace } = runCase(
      alone(text, 'Lock', '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-9, absolute_tolerance: 1e-11 }', '310 s'),
    );
    const { time, data } = column(trace, 'c.gap');
    expect(wanted).toBeCloseTo(314.18, 1);
    // √gap falls along a straight line to zero at the time of equal level.
    const [first, last] = [Math.sqrt(data[0]!), Math.sqrt(data.at(-1)!)];
    expect((time.at(-1)! * first) / (first - last) / wanted).toBeCloseTo(1, 6);
  });
});

describe('second-order step response', () => {
  // Source: Ogata, Modern Control Engineering: overshoot e^{−πζ/√(1−ζ²)} at π/ω_d.
  it.each([0.2, 0.5, 0.7])('overshoots as the textbook says for damping %d', (zeta) => {
    const text = `component: Second\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { x: { start: 0 }, v: { start: 0 } }\n  derivatives: { x: v, v: "4 * (1 - x) - 2 * ${zeta} * 2 * v" }\n  outputs: { y: x }\n`;
    const { trace } = runCase(alone(text, 'Second', '{ method: runge-kutta-4, step: 1 ms }', '10 s'));
    const { time, data } = column(trace, 'c.y');
    const peak = Math.max(...data);
    expect((peak - 1) / Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta * zeta))).toBeCloseTo(1, 3);
    expect(time[data.indexOf(peak)]! / (Math.PI / (2 * Math.sqrt(1 - zeta * zeta)))).toBeCloseTo(1, 2);
  });
});
