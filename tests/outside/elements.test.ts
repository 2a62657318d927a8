import { describe, expect, it } from 'vitest';
import { elementNames } from '@/core/behaviour';
import { column, projectOf, runCase } from '../support/project';

// Each element of the network library against a closed form or an independent integration. Sources: Ogata, Modern Control Engineering (step responses,
// canonical form); Åström & Hägglund, Advanced PID Control (PID with filtered derivative and tracking). Everything else follows from the element's definition.

interface Bench {
  readonly parts: string;
  readonly period?: string;
  readonly stop?: string;
  readonly type?: string;
  readonly step?: string;
}

/** Elements that some test has run. */
const met = new Set<string>();

/** A network of some parts whose part `it` goes out; gives its value over time. */
function response({ parts, period, stop = '5 s', type = 'LREAL', step }: Bench): { time: Float64Array; data: Float64Array } {
  for (const [, name] of parts.matchAll(/use: (\w+)/g)) met.add(name as string);
  const solver = period
    ? `{ method: runge-kutta-4, step: ${period} }`
    : `{ method: dormand-prince-54, step: ${step ?? '20 ms'}, relative_tolerance: 1e-10, absolute_tolerance: 1e-12 }`;
  const project = projectOf({
    'components/n.yaml': `component: N\noutputs: { y: { type: ${type} } }\nbehaviour:\n  kind: network\n${period ? `  period: ${period}\n` : ''}  parts:\n${parts
      .trim()
      .split('\n')
      .map((line) => `    ${line.trim()}`)
      .join('\n')}\n  outputs: { y: it }\n`,
    'loops/l.yaml': `loop: l\ncomponents: { n: { use: N } }\nsolver: ${solver}\nstop: ${stop}\n`,
    'cases/c.yaml': 'case: only\nloop: l\n',
  });
  return column(runCase(project).trace, 'n.y');
}

/** Largest distance of a response from a closed form. */
function gap({ time, data }: { time: Float64Array; data: Float64Array }, form: (t: number) => number, from = 0): number {
  return Math.max(...Array.from(time, (t, index) => (t < from ? 0 : Math.abs((data[index] as number) - form(t)))));
}

const at = (parts: string, type = 'LREAL'): number => response({ parts, type, stop: '1 s' }).data.at(-1) as number;

describe('elements without memory', () => {
  it.each([
    ['gain', 'it: { use: gain, inputs: { in: 3 }, parameters: { k: -2 } }', -6],
    ['sum', 'it: { use: sum, inputs: { minus: 3, plus: 5, minus_2: 1.5 } }', 0.5],
    ['product', 'it: { use: product, inputs: { factor: 3, divisor: 4, factor_2: 2 } }', 1.5],
    ['absolute', 'it: { use: absolute, inputs: { in: -3 } }', 3],
    ['minimum', 'it: { use: minimum, inputs: { a: 3, b: -1, c: 2 }, settings: { count: 3 } }', -1],
    ['maximum', 'it: { use: maximum, inputs: { a: 3, b: 7 } }', 7],
    ['saturation', 'it: { use: saturation, inputs: { in: 3 }, parameters: { low: -1, high: 2 } }', 2],
    ['dead band outside', 'it: { use: dead_band, inputs: { in: -3 }, parameters: { width: 0.5 } }', -2.5],
    ['dead band inside', 'it: { use: dead_band, inputs: { in: 0.4 }, parameters: { width: 0.5 } }', 0],
    ['quantiser, halves to even', 'it: { use: quantiser, inputs: { in: 1.25 }, parameters: { step: 0.5 } }', 1],
    ['formula', 'it: { use: formula, inputs: { a: 9, b: 2 }, settings: { text: SQRT(a) ** b, count: 2 } }', 9],
    ['constant', 'it: { use: constant, parameters: { value: -4.5 } }', -4.5],
    ['switch', 'it: { use: switch, inputs: { condition: TRUE, one: 4, other: 5 } }', 4],
    ['table inside', 'it: { use: table, inputs: { in: 1.5 }, settings: { x: [0, 1, 3], y: [0, 10, 30] } }', 15],
    ['table below', 'it: { use: table, inputs: { in: -1.5 }, settings: { x: [0, 1, 3], y: [2, 10, 30] } }', 2],
    ['table above', 'it: { use: table, inputs: { in: 99 }, settings: { x: [0, 1, 3], y: [2, 10, 30] } }', 30],
    ['surface inside', 'it: { use: surface, inputs: { a: 0.5, b: 15 }, settings: { a: [0, 1], b: [10, 20], values: [[0, 10], [100, 110]] } }', 55],
    [
      'surface at a corner',
      'it: { use: surface, inputs: { a: 1, b: 20 }, settings: { a: [0, 1], b: [10, 20], values: [[0, 10], [100, 110]] } }',
      110,
    ],
    [
      'surface outside both ways',
      'it: { use: surface, inputs: { a: 7, b: -7 }, settings: { a: [0, 1], b: [10, 20], values: [[0, 10], [100, 110]] } }',
      100,
    ],
  ])('%s', (_, parts, wanted) => expect(at(parts)).toBeCloseTo(wanted, 12));

  const [F, T] = ['FALSE', 'TRUE'];
  it.each([
    [
      'and',
      [
        [F, F],
        [F, T],
        [T, F],
        [T, T],
      ],
      [0, 0, 0, 1],
    ],
    [
      'or',
      [
        [F, F],
        [F, T],
        [T, F],
        [T, T],
      ],
      [0, 1, 1, 1],
    ],
    [
      'xor',
      [
        [F, F],
        [F, T],
        [T, F],
        [T, T],
      ],
      [0, 1, 1, 0],
    ],
    [
      'nand',
      [
        [F, F],
        [F, T],
        [T, F],
        [T, T],
      ],
      [1, 1, 1, 0],
    ],
    [
      'nor',
      [
        [F, F],
        [F, T],
        [T, F],
        [T, T],
      ],
      [1, 0, 0, 0],
    ],
    [
      'equal',
      [
        [1, 2],
        [2, 2],
        [-0, 0],
      ],
      [0, 1, 1],
    ],
    [
      'unequal',
      [
        [1, 2],
        [2, 2],
        [-0, 0],
      ],
      [1, 0, 0],
    ],
    [
      'above',
      [
        [1, 2],
        [2, 2],
        [3, 2],
      ],
      [0, 0, 1],
    ],
    [
      'at_least',
      [
        [1, 2],
        [2, 2],
        [3, 2],
      ],
      [0, 1, 1],
    ],
    [
      'below',
      [
        [1, 2],
        [2, 2],
        [3, 2],
      ],
      [1, 0, 0],
    ],
    [
      'at_most',
      [
        [1, 2],
        [2, 2],
        [3, 2],
      ],
      [1, 1, 0],
    ],
  ])('%s, for each pair of operands', (use, operands, wanted) =>
    expect(operands.map(([a, b]) => at(`it: { use: ${use}, inputs: { a: ${a}, b: ${b} } }`, 'BOOL'))).toEqual(wanted),
  );

  it('gates take more than two, and not turns one', () => {
    expect(at('it: { use: or, inputs: { a: TRUE, b: FALSE, c: FALSE }, settings: { count: 3 } }', 'BOOL')).toBe(1);
    expect([F, T].map((value) => at(`it: { use: not, inputs: { in: ${value} } }`, 'BOOL'))).toEqual([1, 0]);
  });
});

describe('continuous elements', () => {
  it('lag: k (1 − e^{−t/T})', () =>
    expect(
      gap(response({ parts: 'it: { use: lag, inputs: { in: 2 }, parameters: { k: 3, t: 0.7 } }' }), (t) => 6 * (1 - Math.exp(-t / 0.7))),
    ).toBeLessThan(1e-8));
  it('integrator waits at its limit and leaves it at once', () => {
    const parts =
      'u: { use: square, parameters: { low: -1, high: 1, period: 4 } }\nit: { use: integrator, inputs: { in: u }, parameters: { high: 0.5, low: -9 } }';
    expect(gap(response({ parts, stop: '3.9 s', step: '1 ms' }), (t) => (t < 2 ? Math.min(t, 0.5) : 0.5 - (t - 2)))).toBeLessThan(3e-3);
  });
  it('derivative of a ramp through its filter: k (1 − e^{−t/tf})', () => {
    const parts = 'u: { use: ramp, parameters: { slope: 2 } }\nit: { use: derivative, inputs: { in: u }, parameters: { k: 3, tf: 0.25 } }';
    expect(gap(response({ parts }), (t) => 6 * (1 - Math.exp(-t / 0.25)))).toBeLessThan(1e-8);
  });
  it('second order as a transfer function: the textbook’s step response', () => {
    const [w, z] = [3, 0.4];
    const wd = w * Math.sqrt(1 - z * z);
    const form = (t: number): number => 1 - Math.exp(-z * w * t) * (Math.cos(wd * t) + (z / Math.sqrt(1 - z * z)) * Math.sin(wd * t));
    expect(
      gap(
        response({
          parts: `it: { use: transfer, inputs: { in: 1 }, settings: { numerator: [${w * w}], denominator: [1, ${2 * z * w}, ${w * w}] } }`,
        }),
        form,
      ),
    ).toBeLessThan(1e-7);
  });
  it('a transfer function with zeros and equal orders: (2s² + 3s + 4) / (s² + 3s + 2) by partial fractions', () => {
    // 2 + (−3s)/((s+1)(s+2)) → step: 2 − 3 (e^{−t} − e^{−2t})
    const form = (t: number): number => 2 - 3 * (Math.exp(-t) - Math.exp(-2 * t));
    expect(
      gap(response({ parts: 'it: { use: transfer, inputs: { in: 1 }, settings: { numerator: [2, 3, 4], denominator: [1, 3, 2] } }' }), form),
    ).toBeLessThan(1e-8);
  });
  it('a transfer function of 6th order equals its state space', () => {
    const a = [1, 6.5, 17.25, 24, 18.5, 7.5, 1.25];
    const rows = Array.from(
      { length: 6 },
      (_, row) => `[${Array.from({ length: 6 }, (_, c) => (row < 5 ? Number(c === row + 1) : -(a[6 - c] as number))).join(', ')}]`,
    );
    const transfer = response({
      parts: `it: { use: transfer, inputs: { in: 1 }, settings: { numerator: [0.5, 1], denominator: [${a.join(', ')}] } }`,
      stop: '20 s',
    });
    const space = response({
      parts: `it: { use: state_space, inputs: { in: 1 }, settings: { A: [${rows.join(', ')}], B: [0, 0, 0, 0, 0, 1], C: [1, 0.5, 0, 0, 0, 0] } }`,
      stop: '20 s',
    });
    expect(space.data.length).toBe(transfer.data.length);
    expect(Math.max(...space.data.map((value, index) => Math.abs(value - (transfer.data[index] as number))))).toBeLessThan(1e-9);
    // The final value is numerator over denominator at s = 0.
    const long = response({
      parts: `it: { use: transfer, inputs: { in: 1 }, settings: { numerator: [0.5, 1], denominator: [${a.join(', ')}] } }`,
      stop: '80 s',
      step: '1 s',
    });
    expect(long.data.at(-1)).toBeCloseTo(0.8, 6);
  });
  it('PID without limits on a pure lag equals its closed loop: PI with kp = T/λ, ti = T gives 1 − e^{−t/λ}', () => {
    const parts =
      'plant: { use: lag, inputs: { in: c }, parameters: { t: 2 } }\nc: { use: pid, inputs: { setpoint: 1, measured: plant }, parameters: { kp: 4, ti: 2 } }\nit: { use: gain, inputs: { in: plant } }';
    expect(gap(response({ parts }), (t) => 1 - Math.exp(-t / 0.5))).toBeLessThan(1e-7);
  });
  it('PID at its limit: back-calculation brings the integral to e·kp·tt/ti below the limit’s excess', () => {
    // Held error 1 and output at its limit: I settles where kp/ti + (high − v)/tt = 0, so v = high + kp tt / ti.
    const parts =
      'c: { use: pid, inputs: { setpoint: 1, measured: 0 }, parameters: { kp: 2, ti: 4, tt: 0.5, high: 0.3 } }\nit: { use: gain, inputs: { in: c } }';
    const project = projectOf({
      'components/n.yaml': `component: N\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: network\n  parts:\n${parts
        .split('\n')
        .map((line) => `    ${line}`)
        .join('\n')}\n  outputs: { y: it }\n`,
      'loops/l.yaml':
        'loop: l\ncomponents: { n: { use: N } }\nsolver: { method: dormand-prince-54, step: 100 ms, relative_tolerance: 1e-9 }\nstop: 10 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    expect(column(runCase(project).trace, 'n.c.i').data.at(-1)).toBeCloseTo(0.3 + (2 * 0.5) / 4 - 2, 6);
  });
  it('filtered derivative of PID on a ramp: −kp td (1 − e^{−n t/td}) beside P', () => {
    const parts =
      'u: { use: ramp, parameters: { slope: 1 } }\nc: { use: pid, inputs: { setpoint: 0, measured: u }, parameters: { kp: 2, ti: 1e9, td: 0.5, n: 5, b: 0 } }\nit: { use: gain, inputs: { in: c } }';
    expect(gap(response({ parts }), (t) => -2 * t - 2 * 0.5 * (1 - Math.exp((-5 * t) / 0.5)))).toBeLessThan(1e-6);
  });
  it('step: before until its time, after from then on', () => {
    const { time, data } = response({ parts: 'it: { use: step, parameters: { before: -1, after: 2, at: 1.5 } }', step: '100 ms', stop: '3 s' });
    expect([...data]).toEqual(Array.from(time, (t) => (t < 1.5 ? -1 : 2)));
    expect(new Set(data)).toEqual(new Set([-1, 2]));
  });

  it('waves', () => {
    expect(
      gap(
        response({ parts: 'it: { use: sine, parameters: { mean: 1, amplitude: 2, period: 0.8, phase: 0.3 } }' }),
        (t) => 1 + 2 * Math.sin((2 * Math.PI * t) / 0.8 + 0.3),
      ),
    ).toBeLessThan(1e-9);
    expect(
      gap(response({ parts: 'it: { use: chirp, parameters: { first: 0.2, last: 2, over: 5 } }' }), (t) =>
        Math.sin(2 * Math.PI * (0.2 * t + (1.8 * t * t) / 10)),
      ),
    ).toBeLessThan(1e-9);
  });
});

describe('sampled elements', () => {
  const sampled = (parts: string, type = 'LREAL', stop = '1 s'): number[] => [...response({ parts, period: '100 ms', stop, type }).data];
  it('dead time is exact on whole hits', () => {
    const values = sampled(
      'u: { use: ramp, parameters: { slope: 10 } }\nit: { use: dead_time, inputs: { in: u }, settings: { hits: 3 }, parameters: { start: -1 } }',
    );
    expect(values).toEqual([-1, -1, -1, ...Array.from({ length: 8 }, (_, hit) => 10 * ((hit * 100_000_000) / 1e9))]);
  });
  it('delay breaks a ring and counts hits', () => {
    const values = sampled(
      'before: { use: delay, inputs: { in: it }, parameters: { start: 5 } }\nit: { use: sum, inputs: { plus: before, plus_2: 1 } }',
    );
    expect(values.slice(0, 4)).toEqual([6, 7, 8, 9]);
  });
  // A square wave: TRUE at hits 0 to 4, FALSE at 5 to 9, and so on. What is wanted follows from the figures of IEC 61131-3, timers and edges (from memory).
  const square = 'w: { use: square }\nu: { use: above, inputs: { a: w, b: 0.5 } }\n';
  it.each([
    ['rise: the first hit counts as one', '{ use: rise, inputs: { in: u } }', [0, 10, 20]],
    ['fall', '{ use: fall, inputs: { in: u } }', [5, 15]],
    ['on_delay: from 0.3 s after the rise', '{ use: on_delay, inputs: { in: u }, parameters: { time: 0.3 } }', [3, 4, 13, 14]],
    ['on_delay longer than the pulse', '{ use: on_delay, inputs: { in: u }, parameters: { time: 0.6 } }', []],
    [
      'off_delay: to 0.3 s after the fall',
      '{ use: off_delay, inputs: { in: u }, parameters: { time: 0.3 } }',
      [0, 1, 2, 3, 4, 5, 6, 7, 10, 11, 12, 13, 14, 15, 16, 17, 20],
    ],
    ['pulse: 0.2 s from the rise', '{ use: pulse, inputs: { in: u }, parameters: { time: 0.2 } }', [0, 1, 10, 11, 20]],
    [
      'pulse longer than its cause',
      '{ use: pulse, inputs: { in: u }, parameters: { time: 0.7 } }',
      [0, 1, 2, 3, 4, 5, 6, 10, 11, 12, 13, 14, 15, 16, 20],
    ],
    [
      'latch by edges',
      '{ use: latch, inputs: { set: r, reset: f } }\nr: { use: rise, inputs: { in: u } }\nf: { use: fall, inputs: { in: u } }',
      [0, 1, 2, 3, 4, 10, 11, 12, 13, 14, 20],
    ],
    [
      'latch: set wins',
      '{ use: latch, inputs: { set: u, reset: always } }\nalways: { use: above, inputs: { a: 1, b: 0 } }',
      [0, 1, 2, 3, 4, 10, 11, 12, 13, 14, 20],
    ],
    [
      'hysteresis on a slow sine',
      '{ use: hysteresis, inputs: { in: s }, parameters: { on: 0.5, off: -0.5 } }\ns: { use: sine, parameters: { period: 2 } }',
      [2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
    ],
  ])('%s', (_, part, wanted) => {
    const values = sampled(`${square}it: ${part}`, 'BOOL', '2 s');
    expect(values.flatMap((value, hit) => (value === 1 ? [hit] : []))).toEqual(wanted);
  });
  it('noise: normal by its moments, a new number at each hit, the same again', () => {
    const draw = (): Float64Array =>
      response({ parts: 'it: { use: noise, parameters: { mean: 2, deviation: 3 } }', period: '1 ms', stop: '20 s' }).data;
    const drawn = draw();
    const mean = (power: number): number => drawn.reduce((sum, one) => sum + ((one - 2) / 3) ** power, 0) / drawn.length;
    // Five times the standard error of each moment: of the k-th, √((2k − 1)!! / n) and less.
    const near = (power: number, moment: number, variance: number): void =>
      expect(Math.abs(mean(power) - moment)).toBeLessThan(5 * Math.sqrt(variance / drawn.length));
    near(1, 0, 1);
    near(2, 1, 2);
    near(3, 0, 15);
    near(4, 3, 96);
    expect(new Set(drawn).size).toBeGreaterThan(0.99 * drawn.length);
    expect(draw()).toEqual(drawn);
  });

  it('hold keeps what it took last', () => {
    const values = sampled(`${square}x: { use: ramp }\nit: { use: hold, inputs: { in: x, take: u } }`);
    expect(values).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.4, 0.4, 0.4, 0.4, 0.4, 1].map((value) => expect.closeTo(value, 12)));
  });
  it('without a delay the ring is told by name', () => {
    const { faults } = projectOf({
      'components/n.yaml':
        'component: N\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: network\n  period: 1 s\n  parts:\n    a: { use: gain, inputs: { in: b } }\n    b: { use: gain, inputs: { in: a } }\n  outputs: { y: b }\n',
    });
    expect(faults.map((fault) => fault.message)).toEqual(['These sampled components wait for each other within one hit: N.a → N.b → N.a.']);
  });
  it('lag is exact for a held input', () => {
    sampled('it: { use: lag, inputs: { in: 1 }, parameters: { t: 0.3 } }').forEach((value, hit) => {
      expect(value).toBeCloseTo(1 - Math.exp((-hit * 0.1) / 0.3), 12);
    });
  });
  it('integrator: forward rectangles, limits', () =>
    expect(
      sampled('it: { use: integrator, inputs: { in: 2 }, parameters: { high: 0.5 } }')
        .slice(0, 5)
        .map((one) => Number(one.toFixed(12))),
    ).toEqual([0, 0.2, 0.4, 0.5, 0.5]));
  it('derivative: backward difference of a ramp', () => {
    const values = sampled('u: { use: ramp, parameters: { slope: 3 } }\nit: { use: derivative, inputs: { in: u }, parameters: { tf: 0.1 } }');
    values.forEach((value, hit) => {
      expect(value).toBeCloseTo(3 * (1 - 0.5 ** hit), 9);
    });
  });
  it('rate limit', () =>
    expect(
      sampled('it: { use: rate_limit, inputs: { in: 1 }, parameters: { up: 3 } }')
        .slice(0, 5)
        .map((one) => Number(one.toFixed(12))),
    ).toEqual([0.3, 0.6, 0.9, 1, 1]));
  it('equality within a tolerance', () => {
    expect(at('it: { use: equal, inputs: { a: 1, b: 1.5 }, parameters: { tolerance: 0.5 } }', 'BOOL')).toBe(1);
    expect(at('it: { use: unequal, inputs: { a: 1, b: 1.6 }, parameters: { tolerance: 0.5 } }', 'BOOL')).toBe(1);
  });
  it('a counter counts rises and is full from its limit on', () => {
    const parts = 'c: { use: counter, inputs: { in: u, reset: FALSE }, parameters: { limit: 2 } }\n';
    expect([0, 9, 10, 20].map((hit) => sampled(`${square}${parts}it: { use: gain, inputs: { in: c.out } }`, 'LREAL', '2 s')[hit])).toEqual([
      1, 1, 2, 3,
    ]);
    const full = sampled(`${square}${parts}it: { use: and, inputs: { a: c.reached, b: TRUE } }`, 'BOOL', '2 s');
    expect(full.indexOf(1)).toBe(10);
  });
  it('hysteresis, continuous: switches where its thresholds are passed, to a nanosecond', () => {
    const parts = (phase: number): string =>
      `u: { use: sine, parameters: { period: 1, phase: ${phase} } }\nit: { use: hysteresis, inputs: { in: u }, parameters: { on: 0.9, off: -0.9 } }`;
    const turns = (phase: number): (readonly [number, number])[] => {
      const { time, data } = response({ parts: parts(phase), type: 'BOOL', stop: '2 s' });
      return [...data].flatMap((value, row) => (row === 0 || value !== data[row - 1] ? [[time[row] as number, value] as const] : []));
    };
    const asin = Math.asin(0.9) / (2 * Math.PI);
    const near = (found: readonly (readonly [number, number])[], wanted: readonly (readonly [number, number])[]): void => {
      expect(found.map(([, value]) => value)).toEqual(wanted.map(([, value]) => value));
      for (const [index, [at]] of found.entries()) expect(at).toBeCloseTo((wanted[index] as readonly [number, number])[0], 8);
    };
    near(turns(0), [
      [0, 0],
      [asin, 1],
      [0.5 + asin, 0],
      [1 + asin, 1],
      [1.5 + asin, 0],
    ]);
    // One that begins above on is TRUE from the start, and stays so between the thresholds.
    near(turns(Math.PI / 2), [
      [0, 1],
      [0.25 + asin, 0],
      [0.75 + asin, 1],
      [1.25 + asin, 0],
      [1.75 + asin, 1],
    ]);
  });
  it('hysteresis, continuous, sees a jump', () => {
    const { time, data } = response({
      parts: 'u: { use: step, parameters: { at: 0.5 } }\nit: { use: hysteresis, inputs: { in: u }, parameters: { on: 0.9, off: 0.1 } }',
      type: 'BOOL',
      stop: '1 s',
    });
    expect(time[data.indexOf(1)]).toBeCloseTo(0.5, 8);
  });
  it('hysteresis', () => {
    const values = sampled(
      'u: { use: sine, parameters: { period: 1 } }\nit: { use: hysteresis, inputs: { in: u }, parameters: { on: 0.9, off: -0.9 } }',
      'BOOL',
      '1 s',
    );
    expect(values.join('')).toBe('00111110000');
  });
  it('PID: the difference equations of the book', () => {
    const [T, kp, ti, td, n, tt, high] = [0.1, 1.5, 0.8, 0.2, 8, 0.5, 1.2];
    const ours = sampled(
      `m: { use: sine, parameters: { amplitude: 0.5, period: 1.3 } }\nit: { use: pid, inputs: { setpoint: 1, measured: m }, parameters: { kp: ${kp}, ti: ${ti}, td: ${td}, n: ${n}, tt: ${tt}, high: ${high} } }`,
      'LREAL',
      '3 s',
    );
    let [i, d, last] = [0, 0, 0];
    ours.forEach((value, hit) => {
      const y = 0.5 * Math.sin((2 * Math.PI * hit * T) / 1.3);
      if (hit === 0) last = y;
      d = (td / (td + n * T)) * d - ((kp * td * n) / (td + n * T)) * (y - last);
      const v = kp * (1 - y) + i + d;
      const u = Math.min(v, high);
      expect(value).toBeCloseTo(u, 9);
      i += (kp * T * (1 - y)) / ti + (T / tt) * (u - v);
      last = y;
    });
  });
  it('what remembers needs a period, and says so', () => {
    const { faults } = projectOf({
      'components/n.yaml':
        'component: N\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: network\n  parts:\n    it: { use: delay, inputs: { in: 1 } }\n    t: { use: transfer, inputs: { in: 2 }, settings: { numerator: [1, 2, 3], denominator: [1, 2] } }\n    g: { use: gian, inputs: { in: 1 } }\n    s: { use: sum, inputs: { plus: 1 }, settings: { signs: "++" } }\n    p: { use: minimum, inputs: { a: 1 }, settings: { cuont: 3 } }\n  outputs: { y: it }\n',
    });
    expect(faults.map((fault) => `${fault.place.line} ${fault.message}`)).toEqual([
      '6 delay: this element remembers from hit to hit: give the network or this part a period.',
      '7 transfer: the numerator may not be of higher order than the denominator.',
      '8 There is no element or component "gian".',
      '9 sum has no setting "signs".',
      '10 The input N.p.b is not connected.',
      '10 minimum has no setting "cuont".',
    ]);
  });
});

it('no element of the library was left out', () => {
  expect(elementNames().filter((name) => !met.has(name))).toEqual([]);
});
