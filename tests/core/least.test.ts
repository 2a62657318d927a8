import { describe, expect, it } from 'vitest';
import { leastOf, scan } from '@/core/criteria';
import type { Node } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';

const rows = 6_000;
let seed = 7;
/** Park and Miller's generator (1988). */
const draw = (): number => {
  seed = (seed * 16_807) % 2_147_483_647;
  return seed / 2_147_483_647;
};
/** Rows at uneven instants, some of them two at one instant, with a hole of missing values. */
const time = new Float64Array(rows);
for (let i = 1; i < rows; i += 1) time[i] = time[i - 1]! + (draw() < 0.1 ? 0 : draw());
const walk = Float64Array.from({ length: rows }, () => 0);
for (let i = 1; i < rows; i += 1) walk[i] = walk[i - 1]! + draw() - 0.5;
const holed = walk.map((value, i) => (i > 3_000 && i < 3_040 ? Number.NaN : value));
const columnOf = (data: Float64Array, slot: number, between: Column['between']): Column => ({
  name: `c${slot}`,
  slot,
  base: 0,
  between,
  type: 'LREAL',
  unit: '',
  data,
});
const columns = [
  columnOf(walk, 0, 'straight'),
  columnOf(
    walk.map((value, i) => Math.sin(i / 50) * 30 - value / 2),
    1,
    'straight',
  ),
  columnOf(holed, 2, 'held'),
];
const trace: Trace = {
  bases: [time],
  columns,
  marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() },
  from: 0,
  until: time.at(-1)!,
};
const signals = { trace, column: (slot: number) => columns[slot], constant: (slot: number) => slot };

const slot = (index: number): Node => ({ k: 'slot', type: 'LREAL', slot: index });
const constant = (value: number): Node => ({ k: 'const', type: 'LREAL', value });
const minus = (a: Node, b: Node): Node => ({ k: 'arithmetic', type: 'LREAL', operator: '-', a, b, site: 0 });
const quantities: readonly (readonly [string, Node])[] = [
  ['4 − x', minus(constant(4), slot(0))],
  ['x − parameter', minus(slot(0), slot(9))],
  ['−(x − 3)', { k: 'negate', type: 'LREAL', a: minus(slot(0), constant(3)), site: 0 }],
  ['2 − |x − y|', minus(constant(2), { k: 'call', type: 'LREAL', fn: 'ABS', operands: [minus(slot(0), slot(1))], site: 0 })],
  ['a held one with missing values', minus(slot(2), constant(1))],
];

describe('the least of a quantity over many overlapping windows', () => {
  it.each(quantities)('%s: what is found by stretches is what is found by walking', (_, node) => {
    const least = leastOf(node, signals);
    for (let i = 0; i < 400; i += 1) {
      const pick = (): number => (draw() < 0.5 ? time[Math.floor(draw() * rows)]! : draw() * trace.until);
      const [from, until] = [pick(), pick()].sort((a, b) => a - b) as [number, number];
      const closed = draw() < 0.5;
      const walked = scan(node, false, signals).least(from, until, closed);
      const found = least(from, until, closed);
      expect(found.value).toBeCloseTo(walked.value, 12);
      if (Number.isFinite(walked.value)) expect(found.complete).toBe(walked.complete);
    }
  });
});
