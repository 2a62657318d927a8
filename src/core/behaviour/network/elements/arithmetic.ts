import { algebraic, type Element, inputsOfKinds, kindOfInput, letters, numbers, type Position, parameter, real } from './element';

const most = 12;
const definition = 'by definition';

const inputsOf = (names: readonly string[], type: 'LREAL' | 'BOOL' = 'LREAL') => Object.fromEntries(names.map((name) => [name, type] as const));

function countOf(setting: unknown, least: number): number | undefined {
  const count = setting ?? 2;
  return typeof count === 'number' && Number.isInteger(count) && count >= least && count <= most ? count : undefined;
}

function extreme(fn: 'MIN' | 'MAX', about: string): Element {
  return {
    about,
    units: 'kept',
    source: definition,
    settings: { count: `number of inputs, 2 to ${most}; 2 unless it is given` },
    build: ({ count }, sampled) => {
      const inputs = countOf(count, 2);
      if (inputs === undefined) return `count is a whole number from 2 to ${most}`;
      return algebraic({ inputs: inputsOf(letters(inputs)) }, `${fn}(${letters(inputs).join(', ')})`, sampled);
    },
  };
}

/** Elements without memory that compute with numbers. */
export const arithmetic: Readonly<Record<string, Element>> = {
  gain: {
    about: 'out = k · in',
    source: definition,
    build: (_, sampled) => algebraic({ inputs: { in: 'LREAL' }, parameters: { k: parameter(1) } }, 'k * in', sampled),
  },
  sum: {
    about: 'sum of its inputs plus, plus_2 …, less its inputs minus, minus_2 …',
    units: 'kept',
    source: definition,
    kinds: ['plus', 'minus'],
    build: (_, sampled, inputs = []) => {
      const names = inputsOfKinds(inputs, ['plus', 'minus']);
      const term = (name: string, index: number): string => {
        const isMinus = kindOfInput(name) === 'minus';
        return index === 0 ? `${isMinus ? '-' : ''}${name}` : `${isMinus ? '-' : '+'} ${name}`;
      };
      return algebraic({ inputs: inputsOf(names) }, names.map(term).join(' '), sampled);
    },
  },
  product: {
    about: 'product of its inputs factor, factor_2 …, divided by its inputs divisor, divisor_2 …',
    source: definition,
    kinds: ['factor', 'divisor'],
    build: (_, sampled, inputs = []) => {
      const names = inputsOfKinds(inputs, ['factor', 'divisor']);
      const term = (name: string, index: number): string => {
        const divides = kindOfInput(name) === 'divisor';
        return index === 0 ? `${divides ? '1.0 / ' : ''}${name}` : `${divides ? '/' : '*'} ${name}`;
      };
      return algebraic({ inputs: inputsOf(names) }, names.map(term).join(' '), sampled);
    },
  },
  absolute: {
    about: 'out = |in|',
    units: 'kept',
    source: definition,
    build: (_, sampled) => algebraic({ inputs: { in: 'LREAL' } }, 'ABS(in)', sampled),
  },
  minimum: extreme('MIN', 'least of its inputs'),
  maximum: extreme('MAX', 'greatest of its inputs'),
  quantiser: {
    about: 'in rounded to whole steps, halves to even',
    units: 'kept',
    source: 'rounding as IEC 61131-3 converts to whole numbers',
    build: (_, sampled) =>
      algebraic(
        { inputs: { in: 'LREAL' }, parameters: { step: parameter(1, { min: 1e-12 }) } },
        'DINT_TO_LREAL(LREAL_TO_DINT(in / step)) * step',
        sampled,
      ),
  },
  formula: {
    about: 'any expression of its inputs a, b, c …',
    source: definition,
    settings: { text: 'the expression', count: `number of inputs, 1 to ${most}; 1 unless it is given` },
    example: { text: 'SQRT(a) * b', count: 2 },
    build: ({ text, count = 1 }, sampled) => {
      const inputs = countOf(count, 1);
      if (typeof text !== 'string') return 'text is an expression such as "SQRT(a) * b"';
      return inputs === undefined
        ? `count is a whole number from 1 to ${most}`
        : algebraic({ inputs: inputsOf(letters(inputs)) }, `(${text})`, sampled);
    },
  },
  saturation: {
    about: 'in kept between low and high',
    units: 'kept',
    source: definition,
    build: (_, sampled) =>
      algebraic({ inputs: { in: 'LREAL' }, parameters: { low: parameter(-1), high: parameter(1) } }, 'LIMIT(low, in, high)', sampled),
    positions: () => [
      { words: 'at its low limit', when: 'in <= low' },
      { words: 'between its limits', when: 'in > low AND in < high' },
      { words: 'at its high limit', when: 'in >= high' },
    ],
  },
  dead_band: {
    about: 'nothing within ± width, beyond it in less the width',
    units: 'kept',
    source: definition,
    build: (_, sampled) =>
      algebraic({ inputs: { in: 'LREAL' }, parameters: { width: parameter(0.1, { min: 0 }) } }, 'in - LIMIT(-width, in, width)', sampled),
    positions: () => [
      { words: 'below the band', when: 'in < -width' },
      { words: 'within the band', when: 'in >= -width AND in <= width' },
      { words: 'above the band', when: 'in > width' },
    ],
  },
  switch: {
    about: 'one when the condition holds, other otherwise',
    units: 'kept',
    source: definition,
    build: (_, sampled) => algebraic({ inputs: { condition: 'BOOL', one: 'LREAL', other: 'LREAL' } }, 'SEL(condition, other, one)', sampled),
    positions: () => [
      { words: 'at one', when: 'condition' },
      { words: 'at other', when: 'NOT condition' },
    ],
  },
  constant: {
    about: 'a constant',
    source: definition,
    build: (_, sampled) => algebraic({ parameters: { value: parameter(0) } }, 'value + 0.0', sampled),
  },
  table: {
    about: 'straight between the points of a table, the end values outside',
    source: 'piecewise linear interpolation',
    settings: { x: 'places, rising, 2 to 60 of them', y: 'the value at each' },
    example: { x: [0, 1, 2], y: [0, 1, 4] },
    build: ({ x, y }, sampled) => {
      const problem = gridProblem(x, y);
      if (problem) return problem;
      return algebraic({ inputs: { in: 'LREAL' } }, interpolation('in', x as number[], (y as number[]).map(real)), sampled);
    },
    positions: ({ x }) => cells('in', x),
  },
  surface: {
    about: 'straight in both directions between the points of a table over a and b, the edge values outside',
    source: 'bilinear interpolation',
    settings: { a: 'places along a, rising', b: 'places along b, rising', values: 'a row of values along b for each place of a' },
    example: {
      a: [0, 1],
      b: [0, 1],
      values: [
        [0, 1],
        [1, 2],
      ],
    },
    build: ({ a, b, values }, sampled) => {
      if (!Array.isArray(values)) return 'values is a list of rows, one for each value of a';
      for (const row of values) {
        const problem = gridProblem(b, row);
        if (problem) return problem;
      }
      const problem = gridProblem(
        a,
        values.map(() => 0),
      );
      if (problem) return problem;
      const rows = (values as number[][]).map((row) => interpolation('b', b as number[], row.map(real)));
      return algebraic({ inputs: { a: 'LREAL', b: 'LREAL' } }, interpolation('a', a as number[], rows), sampled);
    },
    positions: ({ a, b }) => {
      return cells('a', a).flatMap((one) =>
        cells('b', b).map(({ words, when }) => ({ words: `${one.words}, ${words}`, when: `(${one.when}) AND (${when})` })),
      );
    },
  },
};

/** The stretches between the places of a table. */
function cells(at: string, places: unknown): Position[] {
  const all = numbers(places) ?? [];
  return all.slice(1).map((until, index) => {
    const from = all[index] as number;
    const isLast = index === all.length - 2;
    return { words: `${at} from ${from} to ${until}`, when: `${at} >= ${real(from)} AND ${at} ${isLast ? '<=' : '<'} ${real(until)}` };
  });
}

function gridProblem(x: unknown, y: unknown): string | undefined {
  const isList = (list: unknown): list is number[] => Array.isArray(list) && list.every((one) => typeof one === 'number' && Number.isFinite(one));
  if (!isList(x) || !isList(y) || x.length < 2 || x.length !== y.length) return 'the table needs as many values as places, two at least, all numbers';
  if (x.length > 60) return 'a table has at most 60 places in a direction';
  return x.every((one, index) => index === 0 || one > (x[index - 1] as number)) ? undefined : 'the places of a table rise from one to the next';
}

/** A tree of SEL that halves the stretches until the one is left whose end is the first above the place: a table of sixty places asks six times. */
function interpolation(at: string, x: readonly number[], y: readonly string[]): string {
  const stretch = (index: number): string => {
    const [start, end] = [x[index] as number, x[index + 1] as number];
    const [from, until] = [y[index] as string, y[index + 1] as string];
    return `(${from} + (${until} - ${from}) * ((${at} - ${real(start)}) / ${real(end - start)}))`;
  };
  // The stretch behind the last place is the last value.
  const among = (first: number, last: number): string => {
    if (first === last) return first === x.length - 1 ? (y.at(-1) as string) : stretch(first);
    const middle = Math.floor((first + last) / 2);
    return `SEL(${at} < ${real(x[middle + 1] as number)}, ${among(middle + 1, last)}, ${among(first, middle)})`;
  };
  return `SEL(${at} < ${real(x[0] as number)}, ${among(0, x.length - 1)}, ${y[0]})`;
}
