import { describe, expect, it } from 'vitest';
import { discretised, frequencyResponse, marginsOf, polesOf, stabilityOf, stepResponse, systemOf, type TransferFunction } from '@/core/linear';

/**
 * Sources. Margins and responses: Ogata, Modern Control Engineering; Åström and Hägglund, Advanced PID Control (their test batch: (s + 1)^−n, a lag with a delay by its approximation).
 * Sampled systems: Ogata, Discrete-Time Control Systems; Åström and Wittenmark, Computer-Controlled Systems, table 2.1. All wanted values are derived in closed form here; what the books read from plots is only told.
 */
const margins = (of: TransferFunction) => {
  const system = systemOf(of);
  return marginsOf(system, frequencyResponse(system, polesOf(system.a)));
};
const product = (...factors: (readonly number[])[]): number[] =>
  factors.reduce<number[]>(
    (all, factor) => {
      const out = new Array<number>(all.length + factor.length - 1).fill(0);
      all.forEach((a, i) => {
        factor.forEach((b, j) => {
          out[i + j]! += a * b;
        });
      });
      return out;
    },
    [1],
  );

describe('margins', () => {
  it.each([10, 100])('K / (s (s + 1)(s + 5)) with K = %d: the gain may grow by 30 / K (Ogata, Bode diagrams; his plots give 8 and −12 dB)', (k) => {
    const found = margins({ numerator: [k], denominator: product([1, 0], [1, 1], [1, 5]) });
    // s³ + 6 s² + 5 s + K is on the border at K = 30, ω = √5 (Routh).
    expect(found.gain?.factor).toBeCloseTo(30 / k, 6);
    expect(found.gain?.omega).toBeCloseTo(Math.sqrt(5), 6);
    const omega = found.phase!.omega;
    expect(k / (omega * Math.hypot(omega, 1) * Math.hypot(omega, 5))).toBeCloseTo(1, 9);
    expect(found.phase!.degrees).toBeCloseTo(90 - ((Math.atan(omega) + Math.atan(omega / 5)) * 180) / Math.PI, 6);
    expect(Math.sign(found.phase!.degrees)).toBe(k < 30 ? 1 : -1);
  });

  it.each([3, 4, 5, 6])('K (s + 1)^−%d: ultimate gain 1 / cos(π/n)^n at tan(π/n) (Åström and Hägglund, test batch)', (n) => {
    const found = margins({ numerator: [1.5], denominator: product(...new Array(n).fill([1, 1])) });
    expect(found.gain?.factor).toBeCloseTo(1 / Math.cos(Math.PI / n) ** n / 1.5, 5);
    expect(found.gain?.omega).toBeCloseTo(Math.tan(Math.PI / n), 5);
    const crossover = Math.sqrt(1.5 ** (2 / n) - 1);
    expect(found.phase?.omega).toBeCloseTo(crossover, 5);
    expect(found.phase?.degrees).toBeCloseTo(180 - (n * Math.atan(crossover) * 180) / Math.PI, 4);
  });

  it('a second order loop ω² / (s (s + 2ζω)): phase margin atan(2ζ / √(√(1 + 4ζ⁴) − 2ζ²)) (Ogata), no gain margin', () => {
    for (const zeta of [0.2, 0.5, 0.9]) {
      const found = margins({ numerator: [9], denominator: [1, 6 * zeta, 0] });
      const wanted = Math.atan((2 * zeta) / Math.sqrt(Math.sqrt(1 + 4 * zeta ** 4) - 2 * zeta ** 2));
      expect(found.phase?.degrees).toBeCloseTo((wanted * 180) / Math.PI, 6);
      expect(found.phase?.delay).toBeCloseTo(wanted / found.phase!.omega, 8);
      expect(found.gain).toBeUndefined();
    }
  });

  it('an integrating process with a PI controller (Åström and Hägglund): K (1 + 1/(Ti s)) / s', () => {
    // |L| = K √(1 + 1/(Ti ω)²) / ω = 1; phase −180° + atan(Ti ω).
    const [k, ti] = [2, 3];
    const found = margins({ numerator: [k * ti, k], denominator: [ti, 0, 0] });
    const square = (k * k + Math.sqrt(k ** 4 + (4 * k * k) / (ti * ti))) / 2;
    expect(found.phase?.omega).toBeCloseTo(Math.sqrt(square), 6);
    expect(found.phase?.degrees).toBeCloseTo((Math.atan(ti * Math.sqrt(square)) * 180) / Math.PI, 6);
  });
});

describe('poles and responses', () => {
  it('second order: frequency and damping, peak e^{−πζ/√(1−ζ²)} at π / (ω √(1−ζ²)) (Ogata)', () => {
    const [omega, zeta] = [3, 0.25];
    const system = systemOf({ numerator: [omega * omega], denominator: [1, 2 * zeta * omega, omega * omega] });
    const poles = polesOf(system.a);
    expect(poles.map((pole) => pole.frequency)).toEqual([expect.closeTo(3, 9), expect.closeTo(3, 9)]);
    expect(poles[0]!.damping).toBeCloseTo(0.25, 9);
    expect(stabilityOf(poles)).toBe('stable');
    const { time, value } = stepResponse(system, poles, 0, 0, 4000);
    const peak = Math.max(...value);
    expect(peak - 1).toBeCloseTo(Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta * zeta)), 5);
    expect(time[value.indexOf(peak)]).toBeCloseTo(Math.PI / (omega * Math.sqrt(1 - zeta * zeta)), 2);
  });

  it('frequency response of a lag: half the power at its corner, −45°; gain falls 20 dB a decade', () => {
    const system = systemOf({ numerator: [5], denominator: [0.1, 1] });
    const points = frequencyResponse(system, polesOf(system.a));
    const at = (omega: number) =>
      points.reduce((best, one) => (Math.abs(Math.log(one.omega / omega)) < Math.abs(Math.log(best.omega / omega)) ? one : best));
    const corner = at(10);
    expect(corner.gain).toBeCloseTo(5 / Math.hypot(1, corner.omega / 10), 9);
    expect(corner.phase).toBeCloseTo((-Math.atan(corner.omega / 10) * 180) / Math.PI, 9);
    expect(at(900).gain / at(90).gain).toBeCloseTo(0.1, 2);
  });

  it.each([
    [[1, 3, 2], 'stable'],
    [[1, 0, 4], 'on the border'],
    [[1, -1, 4], 'unstable'],
    [[1, 1, 0], 'on the border'],
  ] as const)('denominator %j is %s', (denominator, wanted) => {
    expect(stabilityOf(polesOf(systemOf({ numerator: [1], denominator }).a))).toBe(wanted);
  });
});

describe('sampled transfer functions', () => {
  const near = (found: readonly number[], wanted: readonly number[]): void => {
    expect(found.length).toBe(wanted.length);
    found.forEach((value, index) => {
      expect(value).toBeCloseTo(wanted[index]!, 9);
    });
  };
  it('1 / (s (s + 1)), T = 1, held: (0.3679 z + 0.2642) / (z² − 1.3679 z + 0.3679) (Ogata, Discrete-Time Control Systems)', () => {
    const { numerator, denominator } = discretised({ numerator: [1], denominator: [1, 1, 0] }, 1, 'hold');
    const e = Math.exp(-1);
    near(numerator, [0, e, 1 - 2 * e]);
    near(denominator, [1, -1 - e, e]);
  });

  it('a / (s + a) and 1 / s², held (Åström and Wittenmark, table 2.1)', () => {
    const lag = discretised({ numerator: [4], denominator: [1, 4] }, 0.3, 'hold');
    near(lag.numerator, [0, 1 - Math.exp(-1.2)]);
    near(lag.denominator, [1, -Math.exp(-1.2)]);
    const double = discretised({ numerator: [1], denominator: [1, 0, 0] }, 0.2, 'hold');
    near(double.numerator, [0, 0.02, 0.02]);
    near(double.denominator, [1, -2, 1]);
  });

  it('an oscillator ω² / (s² + ω²), held (Åström and Wittenmark, table 2.1)', () => {
    const [omega, period] = [2, 0.4];
    const { numerator, denominator } = discretised({ numerator: [omega ** 2], denominator: [1, 0, omega ** 2] }, period, 'hold');
    const c = Math.cos(omega * period);
    near(numerator, [0, 1 - c, 1 - c]);
    near(denominator, [1, -2 * c, 1]);
  });

  it('by the trapezoidal rule: s replaced by 2/T (z − 1)/(z + 1)', () => {
    const [a, period] = [3, 0.1];
    const { numerator, denominator } = discretised({ numerator: [a], denominator: [1, a] }, period, 'tustin');
    const k = (a * period) / (2 + a * period);
    near(numerator, [k, k]);
    near(denominator, [1, (a * period - 2) / (2 + a * period)]);
    // A lead element has a direct part.
    const lead = discretised({ numerator: [2, 1], denominator: [1, 1] }, 0.5, 'tustin');
    near(
      lead.numerator.map((value) => value * 1.25),
      [2.25, -1.75],
    );
    near(
      lead.denominator.map((value) => value * 1.25),
      [1.25, -0.75],
    );
  });

  it('refuses what cannot be realised', () => {
    expect(() => discretised({ numerator: [1, 0, 0], denominator: [1, 1] }, 1, 'hold')).toThrow('more zeros than poles');
    expect(() => discretised({ numerator: [1], denominator: [0, 0] }, 1, 'hold')).toThrow('denominator is 0');
    expect(() => discretised({ numerator: [1], denominator: [1, 1] }, 0, 'hold')).toThrow('above 0');
  });
});
