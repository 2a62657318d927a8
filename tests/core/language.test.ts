import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import {
  type Expression,
  isIdentifier,
  nearestName,
  parseExpression,
  parseStatements,
  printDuration,
  printExpression,
  readDuration,
} from '@/core/language';
import { conversion, converted, findUnit, sameUnit } from '@/core/units';

const span = { from: 0, until: 0 };
const leaf: fc.Arbitrary<Expression> = fc.oneof(
  fc.integer({ min: 0, max: 100_000 }).map((value): Expression => ({ kind: 'number', value, whole: true, span })),
  fc.double({ min: 0, max: 1e12, noNaN: true, noDefaultInfinity: true }).map((value): Expression => ({ kind: 'number', value, whole: false, span })),
  fc.boolean().map((value): Expression => ({ kind: 'boolean', value, span })),
  fc.integer({ min: 0, max: 1e12 }).map((nanoseconds): Expression => ({ kind: 'time', nanoseconds, span })),
  fc.constantFrom('a', 'level', 'gate.open', 'r.Sub.S1').map((name): Expression => ({ kind: 'name', path: name.split('.'), span })),
);
const { expression } = fc.letrec<{ expression: Expression }>((tie) => ({
  expression: fc.oneof(
    { maxDepth: 5 },
    leaf,
    fc
      .tuple(fc.constantFrom('-' as const, 'NOT' as const), tie('expression'))
      .map(([operator, operand]): Expression => ({ kind: 'unary', operator, operand, span })),
    fc
      .tuple(
        fc.constantFrom('+', '-', '*', '/', 'MOD', '**', '<', '<=', '>', '>=', '=', '<>', 'AND', 'OR', 'XOR'),
        tie('expression'),
        tie('expression'),
      )
      .map(([operator, left, right]) => ({ kind: 'binary', operator, left, right, span }) as Expression),
    fc
      .tuple(fc.constantFrom('MAX', 'ABS', 'LIMIT'), fc.array(tie('expression'), { minLength: 1, maxLength: 3 }))
      .map(([name, operands]): Expression => ({ kind: 'call', name, operands, span })),
  ),
}));

/** A tree without its places. */
function bare(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(bare);
  if (typeof node !== 'object' || node === null) return node;
  return Object.fromEntries(
    Object.entries(node)
      .filter(([key]) => key !== 'span' && key !== 'targetSpan')
      .map(([key, value]) => [key, bare(value)]),
  );
}

describe('expressions', () => {
  it('print and read back to the same tree', () => {
    fc.assert(
      fc.property(expression, (tree) => {
        const { expression: again, faults } = parseExpression(printExpression(tree));
        expect(faults).toEqual([]);
        expect(bare(again)).toEqual(bare(tree));
      }),
      { numRuns: 2000 },
    );
  });

  it('never throw, whatever stands there', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (text) => void parseExpression(text)),
      { numRuns: 2000 },
    );
    const pieces = fc.array(
      fc.constantFrom('(', ')', '1', 'a', '+', ':=', ';', 'IF', 'THEN', 'END_IF', 'ELSE', 'NOT', '.', '[', ',', '"', 'T#', '16#'),
      { maxLength: 60 },
    );
    fc.assert(
      fc.property(pieces, (list) => void parseStatements(list.join(' '))),
      { numRuns: 2000 },
    );
  });

  it('keep the places of what they read', () => {
    const { expression: tree } = parseExpression('alpha + (beta * 2)');
    expect(tree?.kind === 'binary' && [tree.left.span, tree.right.span]).toEqual([
      { from: 0, until: 5 },
      { from: 8, until: 18 },
    ]);
  });
});

describe('statements', () => {
  it('go on after a faulty one and tell each fault', () => {
    const { statements, faults } = parseStatements('a := ; b := 2; := 3; IF x THEN c := 1; END_IF; d := (4;');
    expect(faults.map((fault) => fault.span.from)).toEqual([5, 15, 54]);
    expect(statements.map((one) => one.kind)).toEqual(['assign', 'if']);
  });
  it('pass over comments', () => {
    const { statements, faults } = parseStatements('(* first *) a := 1; // rest\n b := 2;');
    expect([statements.length, faults.length]).toEqual([2, 0]);
  });
});

describe('durations', () => {
  it.each([
    ['80 ms', 80e6],
    ['2.5 s', 2.5e9],
    ['0.1 s', 1e8],
    ['6 min', 360e9],
    ['T#1m30s', 90e9],
    ['TIME#1h2m3s4ms', 3723004e6],
    ['t#500us', 500e3],
    ['1 ns', 1],
  ])('%s', (text, nanoseconds) => expect(readDuration(text)).toBe(nanoseconds));
  it.each(['5', 'five s', '2 sec', '0.5 ns', 'T#', 'T#5', '1e30 s'])('"%s" is refused with a sentence', (text) =>
    expect(readDuration(text)).toEqual(expect.any(String)),
  );
  it('print and read back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e15 }), (nanoseconds) => {
        expect(readDuration(printDuration(nanoseconds))).toBe(nanoseconds);
      }),
    );
  });
});

describe('names and units', () => {
  it.each(['a', '_a', 'constructor', 'x1_y2'])('%s is a name', (name) => expect(isIdentifier(name)).toBe(true));
  it.each(['', '1a', 'a b', 'a__b', '__proto__', 'ä', 'a-b', 'a.b'])('"%s" is none', (name) => expect(isIdentifier(name)).toBe(false));
  it('finds what was meant', () => {
    expect(nearestName('lvel', ['level', 'rate'])).toBe('level');
    expect(nearestName('Chamber', ['chambre', 'gate'])).toBe('chambre');
    expect(nearestName('x', ['completely'])).toBeUndefined();
    // Parts between the dots may have been left out, in front or in the middle; where that may be more than one, none is preferred for it.
    const states = ['station.plant.Idle', 'station.plant.idle', 'station.plant.Idol', 'station.plant.Running', 'station.pump.Running', 'Starting'];
    expect(nearestName('station.idle', states)).toBe('station.plant.Idle');
    expect(nearestName('Idle', states)).toBe('station.plant.Idle');
    expect(nearestName('plant.Running', states)).toBe('station.plant.Running');
    expect(nearestName('Running', states)).toBeUndefined();
    expect(nearestName('Running.station', states)).toBeUndefined();
    // One slip is found among thousands that look alike, wherever the right name stands.
    const tanks = Array.from({ length: 5000 }, (_, index) => `level_of_tank_${index}`);
    expect(nearestName('Levle_of_tank_4321', tanks)).toBe('level_of_tank_4321');
    expect(nearestName('level_of_tnk_4999', tanks)).toBe('level_of_tank_4999');
    expect(nearestName('level_off_tank_777', tanks)).toBe('level_of_tank_777');
  });
  it.each([
    ['mm/s', 'm/s', 0.001],
    ['cm', 'm', 0.01],
    ['m', 'mm', 1000],
    ['min', 's', 60],
    ['kPa', 'bar', 0.01],
    ['h', 'min', 60],
  ])('1 %s = %s × %d', (from, to, factor) => expect(conversion(from, to)).toBeCloseTo(factor, 15));
  it('knows what goes together', () => {
    expect(sameUnit('m/s', 'm.s-1')).toBe(true);
    expect(sameUnit('m', 'mm')).toBe(false);
    expect(sameUnit('', '1')).toBe(true);
    expect(sameUnit('Cel', 'K')).toBe(false);
    expect(conversion('m', 's')).toBeUndefined();
    expect(converted(1, 'm', 's')).toBeUndefined();
    // What is written with some digits is, in a unit a power of ten away, the number with these digits.
    fc.assert(
      fc.property(fc.integer({ min: -999_999, max: 999_999 }), fc.integer({ min: -6, max: 3 }), (digits, exponent) => {
        const value = Number(`${digits}e${exponent}`);
        expect(converted(value, 'mm', 'm')).toBe(Number(`${digits}e${exponent - 3}`));
        expect(converted(value, 'km', 'm')).toBe(Number(`${digits}e${exponent + 3}`));
        expect(converted(value, '%', '1')).toBe(Number(`${digits}e${exponent - 2}`));
        expect(converted(value, 'm', 'm')).toBe(value);
      }),
    );
    expect(converted(36, 'km/h', 'm/s')).toBe(10);
    expect(converted(1.1, 'min', 's')).toBe(66);
    expect(converted(1, 'km/h', 'm/s')).toBeCloseTo(1 / 3.6, 15);
    expect(conversion('Cel', 'K')).toBeUndefined();
    expect(findUnit('blub')).toBeUndefined();
  });

  it('knows no unit behind words of the language it is written in, and prints nothing about them', () => {
    const printed = vi.spyOn(console, 'log');
    for (const code of ['constructor', 'constructor0', 'm/constructor', 'toString', '__proto__', 'hasOwnProperty2'])
      expect(findUnit(code)).toBeUndefined();
    expect(printed).not.toHaveBeenCalled();
    printed.mockRestore();
  });
});
