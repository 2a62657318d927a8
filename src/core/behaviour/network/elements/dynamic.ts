import { type Element, equations, numbers, parameter, real, routine } from './element';

/** Limits, where they are nearer than nobody would set them. */
const within = ({ low = '', high = '' }: Readonly<Record<string, string>>): string =>
  Number(low) <= -1e12 && Number(high) >= 1e12 ? '' : ', low … high';

const limited = { low: parameter(-1e12), high: parameter(1e12), start: parameter(0) };
const through = { inputs: { in: 'LREAL' } } as const;

/** Elements with a memory that follows a differential equation, and their sampled kin. */
export const dynamic: Readonly<Record<string, Element>> = {
  integrator: {
    about: 'integral of k · in, kept between low and high; at a limit it waits there until the input turns',
    source: 'definition; sampled: forward rectangles',
    equation: (values) => `${Number(values.start) === 0 ? '' : 'start + '}∫ k * in${within(values)}`,
    build: (_, sampled) => {
      const face = { ...through, parameters: { k: parameter(1), ...limited } };
      if (sampled)
        return routine(
          face,
          'VAR x : LREAL; going : BOOL; END_VAR\nIF NOT going THEN going := TRUE; x := start; END_IF;\nout := x;',
          'x := LIMIT(low, x + k * in * task_period, high);',
        );
      const rate = 'SEL((x >= high AND k * in > 0.0) OR (x <= low AND k * in < 0.0), k * in, 0.0)';
      return equations(face, { x: { start: 'start', derivative: rate } }, { outputs: { out: 'LIMIT(low, x, high)' } });
    },
  },
  derivative: {
    about: 'derivative of k · in through a filter of first order with time constant tf',
    source: 'Åström & Hägglund, Advanced PID Control: filtered derivative s k / (1 + s tf); sampled: backward difference',
    equation: () => 'k * s * in / (1 + tf * s)',
    build: (_, sampled) => {
      const face = { ...through, parameters: { k: parameter(1), tf: parameter(0.1, { min: 1e-9 }) } };
      if (sampled)
        return routine(
          face,
          'VAR last : LREAL; going : BOOL; END_VAR\nIF NOT going THEN going := TRUE; last := in; END_IF;\nout := (tf * out + k * (in - last)) / (tf + task_period);\nlast := in;',
        );
      return equations(face, { x: { start: 0, derivative: '(in - x) / tf' } }, { outputs: { out: 'k * (in - x) / tf' } });
    },
  },
  lag: {
    about: 'first order: follows k · in with time constant t',
    source: 'k / (1 + s t); sampled: exact for an input that is held between hits',
    equation: ({ start }) => `k * in / (1 + t * s)${Number(start) === 0 ? '' : ', from start'}`,
    build: (_, sampled) => {
      const face = { ...through, parameters: { k: parameter(1), t: parameter(1, { min: 1e-9 }), start: parameter(0) } };
      if (sampled)
        return routine(
          face,
          'VAR x : LREAL; going : BOOL; END_VAR\nIF NOT going THEN going := TRUE; x := start; END_IF;\nout := x;',
          'x := x + (1.0 - EXP(-task_period / t)) * (k * in - x);',
        );
      return equations(face, { x: { start: 'start', derivative: '(k * in - x) / t' } }, { outputs: { out: 'x' } });
    },
  },
  transfer: {
    about: 'rational transfer function; coefficients of falling powers of s',
    source: 'controllable canonical form (Ogata, Modern Control Engineering)',
    settings: { numerator: 'coefficients, highest power first', denominator: 'coefficients, highest power first; order 1 to 12' },
    example: { numerator: [1], denominator: [4, 2, 1] },
    build: ({ numerator, denominator }, sampled) => {
      const [num, den] = [numbers(numerator), numbers(denominator)];
      if (!num || !den) return 'numerator and denominator are lists of numbers, highest power first';
      if (den.length < 2 || den.length > 13 || den[0] === 0) return 'the denominator has the order 1 to 12 and does not begin with 0';
      if (num.length > den.length) return 'the numerator may not be of higher order than the denominator';
      if (sampled) return 'a transfer function in s is continuous; leave the period of this network away, or use lag, delay and sum';
      const order = den.length - 1;
      const lead = den[0] as number;
      const a = den.slice(1).map((one) => one / lead);
      const b = [...Array.from({ length: den.length - num.length }, () => 0), ...num].map((one) => one / lead);
      const direct = b[0] as number;
      const state = (index: number): string => `x${index + 1}`;
      // x1′ = x2 …; the last one closes the chain: in − Σ a·x
      const chain = Array.from({ length: order }, (_, index) =>
        index < order - 1 ? state(index + 1) : `in - (${a.map((one, power) => `${real(one)} * ${state(order - 1 - power)}`).join(' + ')})`,
      );
      const out = a.map((one, power) => `${real((b[power + 1] as number) - one * direct)} * ${state(order - 1 - power)}`).join(' + ');
      return equations(through, Object.fromEntries(chain.map((derivative, index) => [state(index), { start: 0, derivative }])), {
        outputs: { out: `${out} + ${real(direct)} * in` },
      });
    },
  },
  state_space: {
    about: 'x′ = A x + B in, out = C x + D in',
    source: 'definition',
    settings: { A: 'n rows of n numbers, n up to 12', B: 'n numbers', C: 'n numbers', D: 'a number; 0 unless it is given' },
    example: {
      A: [
        [0, 1],
        [-1, -2],
      ],
      B: [0, 1],
      C: [1, 0],
    },
    build: ({ A, B, C, D = 0 }, sampled) => {
      const rows = Array.isArray(A) ? A.map(numbers) : [];
      const [b, c] = [numbers(B), numbers(C)];
      const order = rows.length;
      if (sampled) return 'a state space with x′ is continuous; leave the period of this network away';
      if (
        !b ||
        !c ||
        order === 0 ||
        order > 12 ||
        typeof D !== 'number' ||
        rows.some((row) => row?.length !== order) ||
        b.length !== order ||
        c.length !== order
      )
        return 'A is a list of n rows of n numbers, B and C are lists of n numbers, D is a number, n at most 12';
      const sum = (row: readonly number[]): string => row.map((one, index) => `${real(one)} * x${index + 1}`).join(' + ');
      const states = rows.map(
        (row, index) => [`x${index + 1}`, { start: 0, derivative: `${sum(row ?? [])} + ${real(b[index] as number)} * in` }] as const,
      );
      return equations(through, Object.fromEntries(states), { outputs: { out: `${sum(c)} + ${real(D)} * in` } });
    },
  },
  rate_limit: {
    about: 'follows in, rising at most by up and falling at most by down a second',
    units: 'kept',
    source: 'definition; continuous: with the short time constant t',
    equation: () => '+up −down /s',
    build: (_, sampled) => {
      const face = {
        ...through,
        parameters: {
          up: parameter(1, { min: 0 }),
          down: parameter(1, { min: 0 }),
          start: parameter(0),
          ...(sampled ? {} : { t: parameter(0.01, { min: 1e-9 }) }),
        },
      };
      if (sampled)
        return routine(
          face,
          'VAR going : BOOL; END_VAR\nIF NOT going THEN going := TRUE; out := start; END_IF;\nout := out + LIMIT(-down * task_period, in - out, up * task_period);',
        );
      return equations(face, { x: { start: 'start', derivative: 'LIMIT(-down, (in - x) / t, up)' } }, { outputs: { out: 'x' } });
    },
  },
  pid: {
    about: 'controller with set-point weight b, filtered derivative on the measured value, output limits and anti-windup by back-calculation over tt',
    units: 'compared',
    source: 'Åström & Hägglund, Advanced PID Control: u = kp (b r − y) + I + D, T_d/N filter, tracking; sampled: forward I, backward D',
    equation: (values) => {
      const [r, y] = [values.setpoint ?? 'r', values.measured ?? 'y'];
      const error = values.setpoint === undefined && values.measured === undefined ? 'e' : `(${r} - ${y})`;
      const proportional = Number(values.b) === 1 ? error.replace(/^\((.*)\)$/, '$1') : `b * ${r} - ${y}`;
      const filter = Number.isFinite(Number(values.td) / Number(values.n)) ? String(Number(values.td) / Number(values.n)) : 'td / n';
      const derivative = Number(values.td) === 0 ? '' : ` - td * s * ${y} / (1 + ${filter} * s)`;
      return `kp * (${proportional} + ∫ ${error} / ti${derivative})${within(values)}`;
    },
    build: (_, sampled) => {
      const face = {
        inputs: { setpoint: 'LREAL', measured: 'LREAL' },
        parameters: {
          kp: parameter(1),
          ti: parameter(10, { min: 1e-9, about: 'integral time in s' }),
          td: parameter(0, { min: 0, about: 'derivative time in s' }),
          n: parameter(10, { min: 1, about: 'filter of the derivative: td / n' }),
          b: parameter(1, { min: 0, max: 1, about: 'weight of the set-point in the proportional part' }),
          tt: parameter(10, { min: 1e-9, about: 'time of tracking at a limit in s' }),
          low: parameter(-1e12),
          high: parameter(1e12),
        },
      } as const;
      if (sampled)
        return routine(
          face,
          `VAR i, d, last, v : LREAL; going : BOOL; END_VAR
IF NOT going THEN going := TRUE; last := measured; END_IF;
d := SEL(td > 0.0, 0.0, (td * d - kp * td * n * (measured - last)) / (td + n * task_period));
v := kp * (b * setpoint - measured) + i + d;
out := LIMIT(low, v, high);
i := i + task_period * (kp / ti * (setpoint - measured) + (out - v) / tt);
last := measured;`,
        );
      return equations(
        face,
        {
          i: { start: 0, derivative: 'kp / ti * (setpoint - measured) + (u - v) / tt' },
          f: { start: 0, derivative: 'SEL(td > 0.0, 0.0, (measured - f) * n / MAX(td, 1.0e-9))' },
        },
        {
          let: { v: 'kp * (b * setpoint - measured) + i - SEL(td > 0.0, 0.0, kp * n * (measured - f))', u: 'LIMIT(low, v, high)' },
          outputs: { out: 'u' },
        },
      );
    },
  },
};
