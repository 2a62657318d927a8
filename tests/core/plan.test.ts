import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emitExpression, prelude } from '@/core/emit/js';
import { type Numeric, numeric } from '@/core/numeric';
import {
  any,
  arithmetic,
  assign,
  both,
  call,
  cannotFail,
  comparison,
  constant,
  evaluate,
  hitNumber,
  holds,
  isConstant,
  logic,
  minus,
  type Node,
  negative,
  nodesOf,
  not,
  operandsOf,
  plus,
  size,
  slotsRead,
  slotValue,
  taskTime,
  when,
  widened,
} from '@/core/plan';
import { checkProject } from '@/core/project';
import { demoFiles } from '../support/project';

const values = [1.5, -2, 0.25, 7];
const read = (slot: number): number => values[slot] ?? Number.NaN;

/** Random expressions of real numbers over four slots, and of truths over these. */
const { real, truth } = fc.letrec<{ real: Node; truth: Node }>((tie) => ({
  real: fc.oneof(
    { maxDepth: 5, withCrossShrink: true },
    fc.double({ min: -9, max: 9, noNaN: true }).map((value) => constant('LREAL', value)),
    fc.nat(3).map((slot) => slotValue('LREAL', slot)),
    fc
      .tuple(fc.constantFrom('+' as const, '-' as const, '*' as const), tie('real'), tie('real'))
      .map(([operator, a, b]) => arithmetic('LREAL', operator, a, b)),
    fc
      .tuple(fc.constantFrom('ABS' as const, 'SIN' as const, 'COS' as const, 'ATAN' as const, 'EXP' as const), tie('real'))
      .map(([fn, a]) => call('LREAL', fn, [a])),
    fc
      .tuple(fc.constantFrom('MIN' as const, 'MAX' as const, 'ATAN2' as const), tie('real'), tie('real'))
      .map(([fn, a, b]) => call('LREAL', fn, [a, b])),
    tie('real').map(negative),
    fc.tuple(tie('truth'), tie('real'), tie('real')).map(([condition, yes, no]): Node => ({ k: 'select', type: 'LREAL', condition, yes, no })),
  ),
  truth: fc.oneof(
    { maxDepth: 4, withCrossShrink: true },
    fc.boolean().map((value) => constant('BOOL', Number(value))),
    fc
      .tuple(fc.constantFrom('<' as const, '<=' as const, '>' as const, '>=' as const, '=' as const, '<>' as const), tie('real'), tie('real'))
      .map(([operator, a, b]) => comparison(operator, a, b)),
    fc
      .tuple(fc.constantFrom('AND' as const, 'OR' as const, 'XOR' as const), tie('truth'), tie('truth'))
      .map(([operator, a, b]) => logic(operator, a, b)),
    tie('truth').map(not),
  ),
}));

function emitted(node: Node, signals: readonly number[] = values): number {
  const text = `"use strict";${prelude}return ${emitExpression(node, { slot: (slot) => `s[${slot}]`, time: '0', hit: '0' })}`;
  const run = new Function('N', 'F', 's', text) as (N: Numeric, F: () => never, s: readonly number[]) => number;
  return run(
    numeric,
    () => {
      throw new RangeError('failed');
    },
    signals,
  );
}

describe('an expression of the plan', () => {
  it('has one value, whether it is worked out at once or by emitted code', () => {
    fc.assert(
      fc.property(fc.oneof(real, truth), (node) => {
        const [here, there] = [evaluate(node, read), emitted(node)];
        expect(here ?? Number.NaN).toBe(there);
      }),
      { numRuns: 1_000 },
    );
  });

  it('that is said not to fail gives a value whatever its signals are', () => {
    const risky = fc
      .tuple(fc.constantFrom('/' as const, 'SQRT' as const, 'LN' as const, 'ASIN' as const), real, real)
      .map(([how, a, b]) => (how === '/' ? arithmetic('LREAL', how, a, b) : call('LREAL', how, [a])));
    let [sure, failed] = [0, 0];
    fc.assert(
      fc.property(
        fc.oneof(real, risky),
        fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 4, maxLength: 4 }),
        (node, signals) => {
          sure += Number(cannotFail(node));
          try {
            emitted(node, signals);
          } catch {
            failed += 1;
            expect(cannotFail(node)).toBe(false);
          }
        },
      ),
      { numRuns: 1_000 },
    );
    // Both kinds have come by.
    expect([sure > 100, failed > 10]).toEqual([true, true]);
  });

  it('tells its operands: all its nodes are found by going down them, and no signal is read beside theirs', () => {
    const all = (node: Node): Node[] => [node, ...operandsOf(node).flatMap(all)];
    fc.assert(
      fc.property(real, (node) => {
        const text = JSON.stringify(node);
        expect(all(node)).toHaveLength(text.split('"k":').length - 1);
        const slots = all(node).flatMap((one) => (one.k === 'slot' ? [one.slot] : []));
        expect([...slotsRead(node)].sort()).toEqual([...new Set(slots)].sort());
        expect(isConstant(node)).toBe(slots.length === 0);
      }),
    );
  });

  it('tells them for every node of the demo', async () => {
    const project = checkProject(await demoFiles());
    const kinds = new Set<string>();
    for (const { plan } of project.loops.values())
      for (const node of nodesOf(plan)) {
        // Among what is found is work, too, which has no operands of its own kind.
        if (!('type' in node)) continue;
        kinds.add(node.k);
        const inside = Object.values(node).flatMap((part: unknown) => (Array.isArray(part) ? part : [part]));
        expect(operandsOf(node)).toEqual(inside.filter((part) => typeof part === 'object' && part !== null && 'k' in part));
      }
    expect([...kinds].sort()).toEqual(expect.arrayContaining(['arithmetic', 'call', 'compare', 'const', 'hit', 'logic', 'not', 'select', 'slot']));
  });
});

describe('nodes by name', () => {
  const x = slotValue('LREAL', 0);
  const y = slotValue('LREAL', 1);
  it.each<[string, Node, number]>([
    ['x + y', plus(x, y), -0.5],
    ['x − y', minus(x, y), 3.5],
    ['−x', negative(x), -1.5],
    ['|y|', size(y), 2],
    ['slot 3 holds 7', holds(3, 7), 1],
    ['slot 3 holds 8', holds(3, 8), 0],
    ['both', both(holds(3, 7), comparison('<', y, x)), 1],
    ['any of none', any([]), 0],
    ['any of two', any([holds(3, 8), holds(3, 7)]), 1],
    ['not equal', not(holds(3, 7)), 0],
    ['not less', not(comparison('<', x, y)), 1],
    ['TRUE as a number', widened('LREAL', constant('BOOL', 1)), 1],
  ])('%s', (_, node, value) => {
    expect(evaluate(node, read)).toBe(value);
    expect(emitted(node)).toBe(value);
  });

  it('a number that has the type already is left as it is', () => expect(widened('LREAL', x)).toBe(x));

  it('the time of a hit is offset + hit × period', () => {
    const text = `return ${emitExpression(taskTime({ periodNs: 20e6, offsetNs: 5e6 }), { slot: () => '0', time: '0', hit: 'hit' })}`;
    expect((new Function('hit', text) as (hit: number) => number)(3)).toBe(65e6);
    expect(hitNumber.type).toBe('LREAL');
  });

  it('work', () => {
    expect(when(holds(0, 1), [assign(1, x)])).toEqual({ k: 'if', condition: holds(0, 1), yes: [{ k: 'set', slot: 1, value: x }], no: [] });
  });
});
