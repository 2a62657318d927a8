import type { RawComponent } from '@/core/shapes';
import { algebraic, type Element, equations, letters, parameter, routine } from './element';

const needsPeriod = 'this element remembers from hit to hit: give the network or this part a period';
const onlySampled =
  (build: Element['build']): Element['build'] =>
  (settings, sampled) =>
    sampled ? build(settings, sampled) : needsPeriod;
const through = { inputs: { in: 'LREAL' } } as const;
const standard = 'IEC 61131-3 standard function block';

/** @param negated its contrary */
function gate(operator: 'AND' | 'OR' | 'XOR', about: string, negated = false): Element {
  return {
    about,
    source: 'by definition',
    settings: { count: 'number of inputs, 2 to 12; 2 unless it is given' },
    build: ({ count = 2 }, sampled) => {
      if (typeof count !== 'number' || !Number.isInteger(count) || count < 2 || count > 12) return 'count is a whole number from 2 to 12';
      const names = letters(count);
      return algebraic(
        { inputs: Object.fromEntries(names.map((name) => [name, 'BOOL' as const])), outputs: { out: 'BOOL' } },
        negated ? `NOT (${names.join(` ${operator} `)})` : names.join(` ${operator} `),
        sampled,
      );
    },
  };
}

function comparator(sign: string, about: string): Element {
  return {
    about,
    units: 'compared',
    source: 'by definition',
    build: (_, sampled) => algebraic({ inputs: { a: 'LREAL', b: 'LREAL' }, outputs: { out: 'BOOL' } }, `a ${sign} b`, sampled),
  };
}

/** Equality to within a tolerance: of two quantities that are computed rounding alone would decide. */
function equality(sign: '<=' | '>', about: string): Element {
  return {
    about,
    units: 'compared',
    source: 'by definition',
    equation: ({ tolerance }) => `a ${sign === '<=' ? '=' : '≠'} b${Number(tolerance) === 0 ? '' : ' ± tolerance'}`,
    build: (_, sampled) =>
      algebraic(
        { inputs: { a: 'LREAL', b: 'LREAL' }, outputs: { out: 'BOOL' }, parameters: { tolerance: parameter(0, { min: 0 }) } },
        `ABS(a - b) ${sign} tolerance`,
        sampled,
      ),
  };
}

function edge(block: 'R_TRIG' | 'F_TRIG', about: string): Element {
  return {
    about,
    source: standard,
    build: onlySampled(() =>
      routine({ inputs: { in: 'BOOL' }, outputs: { out: 'BOOL' } }, `VAR edge : ${block}; END_VAR\nedge(CLK := in, Q => out);`),
    ),
  };
}

function timer(block: 'TON' | 'TOF' | 'TP', about: string): Element {
  return {
    about,
    source: standard,
    equation: () => 'time s',
    build: onlySampled(() =>
      routine(
        { inputs: { in: 'BOOL' }, outputs: { out: 'BOOL' }, parameters: { time: parameter(1, { min: 0, about: 'in s' }) } },
        `VAR timer : ${block}; END_VAR\ntimer(IN := in, PT := T#1s * time, Q => out);`,
      ),
    ),
  };
}

/** Logic, and elements that remember from hit to hit. */
export const sampledElements: Readonly<Record<string, Element>> = {
  and: gate('AND', 'TRUE when all inputs are'),
  or: gate('OR', 'TRUE when any input is'),
  xor: gate('XOR', 'TRUE when an odd number of inputs is'),
  nand: gate('AND', 'FALSE when all inputs are TRUE', true),
  nor: gate('OR', 'FALSE when any input is TRUE', true),
  not: {
    about: 'the opposite',
    source: 'by definition',
    build: (_, sampled) => algebraic({ inputs: { in: 'BOOL' }, outputs: { out: 'BOOL' } }, 'NOT in', sampled),
  },
  above: comparator('>', 'TRUE while a is above b'),
  below: comparator('<', 'TRUE while a is below b'),
  at_least: comparator('>=', 'TRUE while a is at least b'),
  at_most: comparator('<=', 'TRUE while a is at most b'),
  equal: equality('<=', 'TRUE while a and b differ by no more than the tolerance'),
  unequal: equality('>', 'TRUE while a and b differ by more than the tolerance'),
  rise: edge('R_TRIG', 'TRUE for one hit when in becomes TRUE'),
  fall: edge('F_TRIG', 'TRUE for one hit when in becomes FALSE'),
  on_delay: timer('TON', 'TRUE once in has lasted'),
  off_delay: timer('TOF', 'stays TRUE for a time after in'),
  pulse: timer('TP', 'TRUE for a time from each rise of in'),
  latch: {
    about: 'set and reset; set wins',
    source: standard,
    build: onlySampled(() =>
      routine({ inputs: { set: 'BOOL', reset: 'BOOL' }, outputs: { out: 'BOOL' } }, 'VAR l : SR; END_VAR\nl(S1 := set, R := reset, Q1 => out);'),
    ),
  },
  counter: {
    about: 'counts the rises of in since the last reset; reached once there are limit of them',
    source: `${standard} CTU`,
    equation: () => 'counts to limit',
    build: onlySampled(() =>
      routine(
        {
          inputs: { in: 'BOOL', reset: 'BOOL' },
          outputs: { out: 'LREAL', reached: 'BOOL' },
          parameters: { limit: parameter(10, { min: 0, max: 32767, about: 'a whole number' }) },
        },
        'VAR c : CTU; END_VAR\nc(CU := in, R := reset, PV := LREAL_TO_INT(limit), Q => reached);\nout := c.CV;',
      ),
    ),
  },
  hysteresis: {
    about: 'TRUE from on up to off down',
    source: 'two-point switch with its two thresholds',
    equation: () => 'TRUE from on, FALSE from off',
    build: (_, sampled) => {
      const face = { inputs: { in: 'LREAL' }, outputs: { out: 'BOOL' }, parameters: { on: parameter(1), off: parameter(0) } } as const;
      if (sampled) return routine(face, 'IF in >= on THEN out := TRUE; ELSIF in <= off THEN out := FALSE; END_IF;');
      return equations(
        face,
        { x: { start: 0, derivative: '0.0' } },
        {
          outputs: { out: 'x > 0.5' },
          events: [
            { when: 'in >= on', set: { x: '1.0' }, from_start: true },
            { when: 'in <= off', set: { x: '0.0' } },
          ],
        },
      );
    },
  },
  hold: {
    about: 'takes in when asked, keeps it otherwise',
    units: 'kept',
    source: 'by definition',
    build: onlySampled(() => routine({ inputs: { in: 'LREAL', take: 'BOOL' } }, 'IF take THEN out := in; END_IF;')),
  },
  noise: {
    about: 'a new normal random number at each hit, by the seed of the run',
    source: 'Box and Muller (1958) over mulberry32',
    equation: () => 'normal, mean ± deviation',
    build: onlySampled(() =>
      routine(
        { outputs: { out: 'LREAL' }, parameters: { mean: parameter(0), deviation: parameter(1, { min: 0 }) } },
        'out := DRAW_NORMAL(mean, deviation);',
      ),
    ),
  },
  delay: {
    about: 'in of the hit before',
    units: 'kept',
    source: 'unit delay',
    equation: ({ start }) => `one hit later${Number(start) === 0 ? '' : ', first start'}`,
    build: onlySampled(() =>
      routine(
        { ...through, parameters: { start: parameter(0) } },
        'VAR store : LREAL; going : BOOL; END_VAR\nIF NOT going THEN going := TRUE; store := start; END_IF;\nout := store;',
        'store := in;',
      ),
    ),
  },
  dead_time: {
    about: 'in, later: sampled by a whole number of hits, continuous by the time t',
    units: 'kept',
    source:
      'sampled: exact on multiples of the period; continuous: method of steps (Bellen and Zennaro, Numerical Methods for Delay Differential Equations)',
    // Without either it is not said yet: the loop may give the network a period.
    equation: ({ start, t }, { hits }) => {
      const late = t !== undefined ? 't s later' : hits === 1 ? 'one hit later' : hits === undefined ? 'dead time' : `${String(hits)} hits later`;
      return Number(start) === 0 ? late : `${late}, first start`;
    },
    settings: { hits: 'sampled: how many hits later, 1 to 5000; 1 unless it is given' },
    build: ({ hits }, sampled) => (sampled ? lateByHits(hits) : lateBySeconds(hits)),
  },
};

/** In a sampled network: a line of values that moves on by one at each hit. */
function lateByHits(hits: unknown = 1): RawComponent | string {
  if (typeof hits !== 'number' || !Number.isInteger(hits) || hits < 1 || hits > 5000) return 'hits is a whole number from 1 to 5000';
  return routine(
    { ...through, parameters: { start: parameter(0) } },
    `VAR line : ARRAY[0..${hits - 1}] OF LREAL; at : DINT; filled : BOOL; i : DINT; END_VAR
IF NOT filled THEN filled := TRUE; FOR i := 0 TO ${hits - 1} DO line[i] := start; END_FOR; END_IF;
out := line[at];`,
    `line[at] := in;\nat := (at + 1) MOD ${hits};`,
  );
}

/** In a continuous network: what came in the time t ago, t as it is when the run begins. */
function lateBySeconds(hits: unknown): RawComponent | string {
  if (hits !== undefined)
    return 'hits counts the hits of a sampled network; this one is continuous: say how long with parameters: { t: 2 }, in seconds';
  return equations(
    { ...through, parameters: { t: parameter(1, { min: 1e-6, tuning: 'exported', about: 'dead time, s' }), start: parameter(0) } },
    {},
    { delays: { late: { of: 'in', by: 't', start: 'start' } }, outputs: { out: 'late' } },
  );
}

const wave = (about: string, parameters: Readonly<Record<string, number>>, out: string): Element => ({
  about,
  source: 'by definition',
  build: (_, sampled) =>
    algebraic({ parameters: Object.fromEntries(Object.entries(parameters).map(([name, value]) => [name, parameter(value)])) }, out, sampled),
});
const cycle = '2.0 * 3.141592653589793';

/** Sources over time. */
export const sources: Readonly<Record<string, Element>> = {
  step: wave('before until the time at, after from then on', { before: 0, after: 1, at: 1 }, 'SEL(time >= at, before, after)'),
  ramp: wave('slope from the time since on', { slope: 1, since: 0 }, 'slope * MAX(time - since, 0.0)'),
  sine: wave(
    'mean + amplitude · sin(2π time / period + phase)',
    { mean: 0, amplitude: 1, period: 1, phase: 0 },
    `mean + amplitude * SIN(${cycle} * time / period + phase)`,
  ),
  square: wave(
    'high for the share of each period, low for the rest',
    { low: 0, high: 1, period: 1, share: 0.5 },
    'SEL(time / period - DINT_TO_LREAL(TRUNC(time / period)) < share, low, high)',
  ),
  chirp: wave(
    'sine whose frequency runs from one to the other over a time',
    { amplitude: 1, first: 0.1, last: 10, over: 10 },
    `amplitude * SIN(${cycle} * (first * time + (last - first) * time * time / (2.0 * over)))`,
  ),
};
