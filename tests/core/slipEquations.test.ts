import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { elementNames } from '@/core/behaviour';
import { inspectModel } from '@/core/picture';
import { column, projectOf, runCase } from '../support/project';

/** What stands on the slip of the part `it` of a network with some inputs. */
function slip(part: string, inputs = ''): string {
  const text = `component: N\ninputs: { ${inputs} }\noutputs: { y: { type: LREAL } }\nparameters: { limit: { value: 4 } }\nbehaviour:\n  kind: network\n  parts:\n    it: ${part}\n  outputs: { y: it }\n`;
  const { picture } = inspectModel(
    [
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/n.yaml', text },
    ],
    'component:N',
  );
  if (picture.k !== 'net') throw new Error('no net');
  return picture.slips.find((one) => one.id === 'it')!.text;
}

/** A printed equation computed with values for its names; `s` and ∫ as for signals that grow as e^{st}. */
function computed(equation: string, values: Readonly<Record<string, number | boolean>>): number | boolean {
  const [, yes, condition, no] = /^(.*) if (.*), else (.*)$/.exec(equation) ?? [];
  const [, low, high] = /^(\S+) … (\S+)$/.exec(equation) ?? [];
  const written = condition
    ? `(${condition}) ? (${yes}) : (${no})`
    : low
      ? `Math.min(Math.max(in, ${low}), ${high})`
      : equation.replace(/, (\S+ … \S+|from \S+)$/, '');
  const code = written
    .replaceAll('−', '-')
    .replaceAll('·', '*')
    .replaceAll('≥', '>=')
    .replaceAll('≤', '<=')
    .replaceAll('∫', '(1 / s) *')
    .replace(/\bAND\b/g, '&&')
    .replace(/\bOR\b/g, '||')
    .replace(/\bXOR\b/g, '!==')
    .replace(/\bNOT\b/g, '!')
    .replace(/\bTRUE\b/g, 'true')
    .replace(/\bFALSE\b/g, 'false')
    .replaceAll('π', 'Math.PI')
    .replace(/\b(MIN|MAX|ABS|SQRT|SIN)\(/g, (_, fn: string) => `Math.${fn.toLowerCase()}(`)
    .replace(/\bLIMIT\(/g, 'limit(')
    .replace(/\bSEL\(/g, 'sel(')
    .replace(/\bDINT_TO_LREAL\(TRUNC\(/g, 'Math.trunc((')
    .replace(/\bDINT_TO_LREAL\(LREAL_TO_DINT\(/g, 'even((')
    .replace(/\bin\b/g, 'input');
  const names = Object.keys(values).map((name) => (name === 'in' ? 'input' : name));
  const helpers =
    'const limit = (l, x, h) => Math.min(Math.max(x, l), h), sel = (c, n, y) => (c ? y : n), even = (x) => { const r = Math.round(x); return Math.abs(x % 1) === 0.5 && r % 2 !== 0 ? r - 1 : r; };';
  return new Function(...names, `${helpers} return ${code};`)(...Object.values(values)) as number | boolean;
}

const quarter = fc.integer({ min: -20, max: 20 }).map((value) => value / 4);
const positive = fc.integer({ min: 1, max: 20 }).map((value) => value / 4);

interface Kind {
  readonly use: string;
  readonly inputs: readonly string[];
  readonly type?: 'BOOL';
  readonly out?: 'BOOL';
  readonly parameters?: Readonly<Record<string, fc.Arbitrary<number>>>;
  readonly settings?: string;
}
const kinds: readonly Kind[] = [
  { use: 'gain', inputs: ['in'], parameters: { k: quarter } },
  { use: 'sum', inputs: ['minus', 'plus', 'minus_2'] },
  { use: 'sum', inputs: ['plus', 'plus_2'] },
  { use: 'product', inputs: ['factor', 'factor_2', 'divisor'] },
  { use: 'product', inputs: ['divisor', 'factor'] },
  { use: 'absolute', inputs: ['in'] },
  { use: 'minimum', inputs: ['a', 'b', 'c'], settings: 'count: 3' },
  { use: 'maximum', inputs: ['a', 'b'] },
  { use: 'quantiser', inputs: ['in'], parameters: { step: positive } },
  { use: 'formula', inputs: ['a', 'b'], settings: 'text: "ABS(a) - b * (a + 2.0)", count: 2' },
  { use: 'saturation', inputs: ['in'], parameters: { low: positive.map((value) => -value), high: positive } },
  { use: 'dead_band', inputs: ['in'], parameters: { width: positive } },
  { use: 'switch', inputs: ['condition', 'one', 'other'] },
  { use: 'constant', inputs: [], parameters: { value: quarter } },
  { use: 'above', inputs: ['a', 'b'], out: 'BOOL' },
  { use: 'below', inputs: ['a', 'b'], out: 'BOOL' },
  { use: 'at_least', inputs: ['a', 'b'], out: 'BOOL' },
  { use: 'at_most', inputs: ['a', 'b'], out: 'BOOL' },
  { use: 'and', inputs: ['a', 'b', 'c'], type: 'BOOL', out: 'BOOL', settings: 'count: 3' },
  { use: 'or', inputs: ['a', 'b'], type: 'BOOL', out: 'BOOL' },
  { use: 'xor', inputs: ['a', 'b'], type: 'BOOL', out: 'BOOL' },
  { use: 'not', inputs: ['in'], type: 'BOOL', out: 'BOOL' },
  { use: 'step', inputs: [], parameters: { before: quarter, after: quarter, at: positive } },
  { use: 'ramp', inputs: [], parameters: { slope: quarter, since: positive } },
  { use: 'sine', inputs: [], parameters: { mean: quarter, amplitude: quarter, period: positive, phase: quarter } },
];

const literal = (value: number | boolean): string => String(value).toUpperCase();

describe('the equation on a slip is that of its element', () => {
  it.each(kinds.map((kind) => [`${kind.use}${kind.settings ? ` { ${kind.settings} }` : ''}`, kind] as const))(
    '%s',
    (_, { use, inputs, type, out, parameters = {}, settings }) => {
      const isBool = (name: string): boolean => type === 'BOOL' || name === 'condition';
      fc.assert(
        fc.property(
          fc.tuple(...inputs.map((name) => (isBool(name) ? fc.boolean() : quarter))),
          fc.tuple(...inputs.map(() => fc.boolean())),
          fc.tuple(...Object.values(parameters)),
          (given, wired, chosen) => {
            const values = Object.fromEntries(inputs.map((name, index) => [name, given[index]!]));
            const own = Object.keys(parameters)
              .map((name, index) => `${name}: ${chosen[index]}`)
              .join(', ');
            const write = (source: (name: string, index: number) => string): string =>
              `{ use: ${use}, inputs: { ${inputs.map((name, index) => `${name}: ${source(name, index)}`).join(', ')} }${own ? `, parameters: { ${own} }` : ''}${settings ? `, settings: { ${settings} }` : ''} }`;
            // Some inputs come by a wire, others are numbers; these stand in the equation.
            const shown = slip(
              write((name, index) => (wired[index] ? `x${index}` : literal(values[name]!))),
              inputs.map((name, index) => `x${index}: { type: ${isBool(name) ? 'BOOL' : 'LREAL'} }`).join(', '),
            );
            const project = projectOf({
              'components/n.yaml': `component: N\noutputs: { y: { type: ${out ?? 'LREAL'} } }\nbehaviour:\n  kind: network\n  parts:\n    it: ${write((name) => literal(values[name]!))}\n  outputs: { y: it }\n`,
              'loops/l.yaml': 'loop: l\ncomponents: { n: { use: N } }\nsolver: { method: runge-kutta-4, step: 250 ms }\nstop: 1 s\n',
              'cases/c.yaml': 'case: only\nloop: l\n',
            });
            const { time, data } = column(runCase(project).trace, 'n.y');
            inputs.forEach((name, index) => {
              if (!wired[index] && !isBool(name)) expect(shown.match(/\d/), shown).not.toBeNull();
            });
            data.forEach((value, row) => {
              const wanted = Number(computed(shown, { ...values, time: time[row]! }));
              if (Number.isFinite(wanted)) expect(value, shown).toBeCloseTo(wanted, 9);
            });
          },
        ),
        { numRuns: 25 },
      );
    },
  );

  // A signal that grows as e^{σt} comes out of a linear element as H(σ) e^{σt}, once what it began with has fallen behind.
  const sigma = 1.5;
  const grown = (part: string, share: number): number => {
    const project = projectOf({
      'components/g.yaml': `component: G\noutputs: { p: { type: LREAL }, q: { type: LREAL } }\nbehaviour: { kind: equations, states: { z: { start: 1 } }, derivatives: { z: "${sigma} * z" }, outputs: { p: z, q: "${share} * z" } }\n`,
      'components/n.yaml': `component: N\ninputs: { p: { type: LREAL }, q: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: network\n  parts:\n    it: ${part}\n  outputs: { y: it }\n`,
      'loops/l.yaml':
        'loop: l\ncomponents: { g: { use: G }, n: { use: N } }\nwires: [{ from: g.p, to: n.p }, { from: g.q, to: n.q }]\nsolver: { method: rosenbrock-43, step: 1 s, relative_tolerance: 1e-9, absolute_tolerance: 1e-9 }\nstop: 12 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    const { trace } = runCase(project);
    const last = (name: string): number => column(trace, name).data.at(-1)!;
    return last('n.y') / last('g.p');
  };
  const ports = 'p: { type: LREAL }, q: { type: LREAL }';

  it.each([
    ['integrator', (a: number) => `{ use: integrator, inputs: { in: p }, parameters: { k: ${a}, start: ${a} } }`],
    ['derivative', (a: number, b: number) => `{ use: derivative, inputs: { in: p }, parameters: { k: ${a}, tf: ${b} } }`],
    ['lag', (a: number, b: number) => `{ use: lag, inputs: { in: p }, parameters: { k: ${a}, t: ${b}, start: 2 } }`],
    ['pid with I alone', (a: number, b: number) => `{ use: pid, inputs: { setpoint: p, measured: q }, parameters: { kp: ${a}, ti: ${b} } }`],
    [
      'pid with D',
      (a: number, b: number) => `{ use: pid, inputs: { setpoint: p, measured: q }, parameters: { kp: ${a}, ti: ${b}, td: ${b / 2}, n: 4 } }`,
    ],
    [
      'pid with a weight',
      (a: number, b: number) => `{ use: pid, inputs: { setpoint: p, measured: q }, parameters: { kp: ${a}, ti: ${b}, td: 0.3, b: 0.25 } }`,
    ],
  ] as const)('%s', (_, part) => {
    fc.assert(
      fc.property(positive, positive, fc.constantFrom(0.25, 0.5, 0.75), (a, b, share) => {
        const shown = slip(part(a, b), ports);
        const known = { s: sigma, in: 1, e: 1 - share, r: 1, y: share };
        // What the element began with stands before a sum, and falls behind.
        const wanted = Number(computed(shown.replace(/^\S+ \+ ∫/, '∫'), known));
        expect(Math.abs(grown(part(a, b), share) - wanted), shown).toBeLessThan(2e-3 * Math.max(1, Math.abs(wanted)));
      }),
      { numRuns: 8 },
    );
  });

  it.each([
    ['{ use: pid, inputs: { setpoint: a, measured: b }, parameters: { kp: 2, ti: 5 } }', '2 · (e + ∫ e / 5)'],
    [
      '{ use: pid, inputs: { setpoint: 60, measured: b }, parameters: { kp: 2, ti: 5, low: 0, high: 100 } }',
      '2 · (60 − y + ∫ (60 − y) / 5), 0 … 100',
    ],
    ['{ use: at_least, inputs: { a: b, b: 2.5 } }', 'a ≥ 2.5'],
    ['{ use: at_least, inputs: { a: b, b: limit } }', 'a ≥ limit'],
    ['{ use: saturation, inputs: { in: a }, parameters: { low: -2.2, high: 2.2 } }', '−2.2 … 2.2'],
    ['{ use: switch, inputs: { condition: c, one: 4, other: a } }', '4 if condition, else other'],
    ['{ use: hold, inputs: { in: a, take: TRUE } }', 'hold, take = TRUE'],
    ['{ use: table, inputs: { in: 3 }, settings: { x: [0, 1], y: [2, 3] } }', 'table, in = 3'],
  ])('%s: %s', (part, text) => expect(slip(part, 'a: { type: LREAL }, b: { type: LREAL }, c: { type: BOOL }')).toBe(text));

  it('speaks of every element', () => {
    const plain = new Set(['table', 'surface', 'transfer', 'state_space', 'rise', 'fall', 'latch', 'hold', 'chirp', 'square']);
    const told = new Set([
      'rate_limit',
      'on_delay',
      'off_delay',
      'pulse',
      'hysteresis',
      'nand',
      'nor',
      'equal',
      'unequal',
      'counter',
      'noise',
      'delay',
      'dead_time',
      'integrator',
      'derivative',
      'lag',
      'pid',
    ]);
    expect(elementNames().filter((name) => !plain.has(name) && !told.has(name) && !kinds.some((kind) => kind.use === name))).toEqual([]);
  });
});
