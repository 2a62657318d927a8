import fc from 'fast-check';
import type { Cond, Ev, Quantity, Row, Sent } from './oracle';

/**
 * Random traces and sentences. Values and times are chosen so that every crossing falls on a multiple of 1/8 s, which binary numbers hold
 * exactly: edges, deadlines and crossings coincide all the time, and no rounding hides what should happen then.
 */

const level = fc.constantFrom(0, 8);

export const rows = (withMissing: boolean): fc.Arbitrary<Row[]> =>
  fc
    .array(
      fc.record({
        gap: fc.constantFrom(0, 1, 1, 2),
        x: withMissing ? fc.oneof({ weight: 12, arbitrary: level }, { weight: 1, arbitrary: fc.constant(Number.NaN) }) : level,
        y: level,
        p: fc.boolean(),
        q: fc.boolean(),
        k: fc.constantFrom(0, 1, 2),
      }),
      { minLength: 3, maxLength: 9 },
    )
    .map((list) => {
      let t = 0;
      return list.map(({ gap, ...row }, index) => {
        t += index === 0 ? 0 : gap;
        return { t, ...row };
      });
    })
    // At least two instants, and no more than two rows for one.
    .filter((list) => list.at(-1)!.t > 0 && list.every((row, index) => list[index + 2]?.t !== row.t));

const quantity = fc.constantFrom<Quantity>('x', 'y', 'k', 'x - y', 'ABS(x - y)', 'MAX(x, y)');
const atom: fc.Arbitrary<Cond> = fc.oneof(
  fc.constantFrom<Cond>({ c: 'bool', name: 'p' }, { c: 'bool', name: 'q' }),
  fc
    .tuple(quantity, fc.constantFrom('<' as const, '<=' as const, '>' as const, '>=' as const), fc.constantFrom(0, 2, 4, 6, 8))
    .map(([of, op, limit]): Cond => ({ c: 'bound', of, op, limit: of === 'k' ? Math.min(limit, 2) : limit })),
);
export const condition: fc.Arbitrary<Cond> = fc.oneof(
  { weight: 4, arbitrary: atom },
  { weight: 1, arbitrary: atom.map((a): Cond => ({ c: 'not', a })) },
  {
    weight: 3,
    arbitrary: fc
      .tuple(
        fc.constantFrom('and' as const, 'or' as const),
        atom,
        fc.oneof(
          atom,
          atom.map((a): Cond => ({ c: 'not', a })),
        ),
      )
      .map(([c, a, b]): Cond => ({ c, a, b })),
  },
);
const event: fc.Arbitrary<Ev> = fc.oneof(
  fc.tuple(fc.constantFrom('rises' as const, 'falls' as const), condition).map(([e, of]): Ev => ({ e, of })),
  fc
    .tuple(fc.constantFrom<Quantity>('x', 'y', 'x - y'), fc.constantFrom(2, 4, 8), fc.boolean())
    .map(([of, limit, upward]): Ev => ({ e: 'crosses', of, limit, upward })),
);
const times = fc.constantFrom(0, 0.5, 1, 2, 3);
export const sentence: fc.Arbitrary<Sent> = fc.oneof(
  { weight: 2, arbitrary: fc.tuple(fc.constantFrom('always' as const, 'never' as const), condition).map(([s, holds]): Sent => ({ s, holds })) },
  {
    weight: 3,
    arbitrary: fc
      .tuple(condition, condition, fc.option(times, { nil: undefined }))
      .map(([during, holds, lasting]): Sent => ({ s: 'while', during, holds, ...(lasting === undefined ? {} : { lasting }) })),
  },
  {
    weight: 9,
    arbitrary: fc
      .record({
        event: fc.oneof(
          { weight: 4, arbitrary: event },
          { weight: 1, arbitrary: fc.record({ e: fc.constant('lasts' as const), of: condition, d: times }) },
          { weight: 1, arbitrary: fc.constant({ e: 'start' as const }) },
        ),
        during: fc.option(condition, { nil: undefined }),
        timing: fc.constantFrom('at once', 'within', 'for', 'after', 'between', 'within for', 'until'),
        d: times,
        other: times,
        release: condition,
        bounded: fc.boolean(),
        holds: condition,
      })
      .map(({ during: any, ...one }): Sent => {
        // Nothing lies before the start.
        const during = one.event.e === 'start' ? undefined : any;
        const [first, second] = one.timing === 'between' && one.other > one.d ? [one.d, one.other] : [one.other, one.d];
        return { s: 'when', ...one, other: one.timing === 'within for' ? Math.max(0.5, first) : first, d: second, ...(during ? { during } : {}) };
      }),
  },
  {
    weight: 2,
    arbitrary: fc
      .tuple(fc.array(event, { minLength: 2, maxLength: 3 }), fc.option(times, { nil: undefined }))
      .map(([events, d]): Sent => ({ s: 'sequence', events, ...(d === undefined ? {} : { d }) })),
  },
);

export function writeCsv(list: readonly Row[]): string {
  const cell = (value: number): string => (Number.isNaN(value) ? '' : String(value));
  const bool = (value: boolean): string => (value ? 'TRUE' : 'FALSE');
  return [
    'time[s],x[m],y[m],p,q,k[m]{hold}',
    ...list.map((row) => [row.t, cell(row.x), cell(row.y), bool(row.p), bool(row.q), row.k].join(',')),
  ].join('\n');
}

export function writeCondition(cond: Cond): string {
  switch (cond.c) {
    case 'bool':
      return cond.name;
    case 'bound':
      return `${cond.of} ${cond.op} ${cond.limit}`;
    case 'not':
      return `NOT (${writeCondition(cond.a)})`;
    case 'and':
    case 'or':
      return `(${writeCondition(cond.a)}) ${cond.c.toUpperCase()} (${writeCondition(cond.b)})`;
  }
}

export function writeSentence(sent: Sent): string {
  if (sent.s === 'always' || sent.s === 'never') return `${sent.s} ${writeCondition(sent.holds)}`;
  if (sent.s === 'while')
    return `while ${writeCondition(sent.during)}${sent.lasting === undefined ? '' : ` for ${sent.lasting} s`}, ${writeCondition(sent.holds)}`;
  if (sent.s === 'sequence') return `sequence ${sent.events.map(writeEvent).join(' then ')}${sent.d === undefined ? '' : ` within ${sent.d} s`}`;
  const { event: one, during } = sent;
  const trigger = one.e === 'start' ? 'when start' : one.e === 'lasts' ? `if ${writeCondition(one.of)} for ${one.d} s` : `when ${writeEvent(one)}`;
  return `${trigger}${during ? ` while ${writeCondition(during)}` : ''}, ${writeOwed(sent)}`;
}

function writeEvent(one: Ev): string {
  return one.e === 'crosses' ? `${one.of} crosses ${one.limit} ${one.upward ? 'upward' : 'downward'}` : `${writeCondition(one.of)} ${one.e}`;
}

function writeOwed({ timing, d, other, release, bounded, holds }: Sent & { s: 'when' }): string {
  const what = writeCondition(holds);
  switch (timing) {
    case 'at once':
      return what;
    case 'between':
      return `between ${other} s and ${d} s ${what}`;
    case 'within for':
      return `within ${d} s ${what} for ${other} s`;
    case 'until':
      return `${what} until ${release ? writeCondition(release) : ''}${bounded ? ` within ${d} s` : ''}`;
    default:
      return `${timing} ${d} s ${what}`;
  }
}
