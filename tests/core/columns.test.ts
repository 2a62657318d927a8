import { describe, expect, it } from 'vitest';
import { cannotFail, columnOwners, type Node, neverZero } from '@/core/plan';
import { column, projectOf, runCase } from '../support/project';

const tank = `component: Tank
inputs: { flow: { type: LREAL } }
outputs: { level: { type: LREAL }, alike: { type: LREAL }, doubled: { type: LREAL } }
behaviour:
  kind: equations
  states: { h: { start: 1 } }
  derivatives: { h: flow - 0.5 * h }
  outputs: { level: h, alike: h, doubled: 2.0 * h }
`;
const gate =
  'component: Gate\ninputs: { level: { type: LREAL } }\noutputs: { seen: { type: LREAL } }\nbehaviour: { kind: routine, period: 40 ms, body: "seen := level;" }\n';
const project = projectOf({
  'components/tank.yaml': tank,
  'components/gate.yaml': gate,
  'loops/l.yaml':
    'loop: l\ncomponents: { t: { use: Tank }, g: { use: Gate } }\nwires: [{ from: t.level, to: g.level }]\ninputs: { flow: { to: t.flow } }\nsolver: { method: runge-kutta-4, step: 20 ms }\nstop: 4 s\n',
  'cases/c.yaml': 'case: only\nloop: l\nstimuli: { flow: [{ hold: 0 }, { step: 1, at: 1.01 s }] }\n',
});

describe('a signal that only passes on another', () => {
  const { trace } = runCase(project);
  const [level, alike, doubled] = ['t.level', 't.alike', 't.doubled'].map((name) => column(trace, name));

  it('shows the same numbers, which lie in memory once', () => {
    expect(alike?.data.buffer).toBe(level?.data.buffer);
    expect(alike?.data.byteOffset).toBe(level?.data.byteOffset);
    expect(doubled?.data.buffer).not.toBe(level?.data.buffer);
    expect([...(doubled?.data ?? [])]).toEqual([...(level?.data ?? [])].map((value) => 2 * value));
  });

  it('keeps its own name and is there for tasks', () => {
    expect(trace.columns.map((one) => one.name)).toEqual(expect.arrayContaining(['t.level', 't.alike', 't.doubled']));
    const seen = column(trace, 'g.seen').data;
    const at = (seconds: number): number => level?.data[trace.bases[0]?.indexOf(seconds) ?? -1] ?? Number.NaN;
    expect([seen[0], seen[1], seen[25]]).toEqual([1, at(0.04), at(1)]);
  });

  it('belongs to the last logged one it comes from', () => {
    const slot = (number: number): Node => ({ k: 'slot', type: 'LREAL', slot: number });
    const assignments = [
      { slot: 1, value: slot(0) },
      { slot: 2, value: slot(1) },
      { slot: 3, value: slot(9) },
    ];
    // 0 → 1 → 2, of which 0 is not logged; 9 neither.
    expect([...columnOwners({ assignments, logged: [1, 2, 3, 4] })]).toEqual([
      [1, 1],
      [2, 1],
      [3, 3],
      [4, 4],
    ]);
  });
});

describe('what can be told of an expression beforehand', () => {
  const x: Node = { k: 'slot', type: 'LREAL', slot: 0 };
  const constant = (value: number): Node => ({ k: 'const', type: 'LREAL', value });
  const extreme = (fn: 'MAX' | 'MIN', a: Node, b: Node, type: 'LREAL' | 'REAL' = 'LREAL'): Node => ({
    k: 'call',
    type,
    fn,
    operands: [a, b],
    site: 0,
  });
  const quotient = (b: Node): Node => ({ k: 'arithmetic', type: 'LREAL', operator: '/', a: x, b, site: 0 });

  it.each([
    [constant(3), true],
    [constant(0), false],
    [x, false],
    [extreme('MAX', x, constant(0.1)), true],
    [extreme('MAX', constant(0.1), x), true],
    [extreme('MAX', x, constant(-1)), false],
    [extreme('MIN', x, constant(-1)), true],
    // Rounded to 32 bits it is zero.
    [extreme('MAX', x, constant(1e-60), 'REAL'), false],
  ])('a divisor %j is never zero: %s', (node, expected) => {
    expect(neverZero(node)).toBe(expected);
    expect(cannotFail(quotient(node))).toBe(expected);
  });

  it.each<[Node, boolean]>([
    [{ k: 'call', type: 'LREAL', fn: 'SQRT', operands: [x], site: 0 }, false],
    [{ k: 'call', type: 'LREAL', fn: 'SIN', operands: [x], site: 0 }, true],
    [{ k: 'arithmetic', type: 'INT', operator: '+', a: constant(1), b: constant(2), site: 0 }, false],
    [{ k: 'arithmetic', type: 'LREAL', operator: '**', a: x, b: x, site: 0 }, false],
    // A draw leaves its stream at another place.
    [{ k: 'draw', type: 'LREAL', how: 'uniform', state: 1 }, false],
    [{ k: 'select', type: 'LREAL', condition: { k: 'compare', type: 'BOOL', operator: '<', a: x, b: x }, yes: x, no: quotient(x) }, false],
  ])('%j cannot fail: %s', (node, expected) => expect(cannotFail(node)).toBe(expected));
});

describe('a value that only derivatives read', () => {
  it('ends the run where it has none, however the run came there', () => {
    const failing = projectOf({
      'components/tank.yaml':
        'component: Tank\noutputs: { level: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 0 }, g: { start: 0 } }\n  let: { ahead: 1.0 / (h - 3.0), harmless: h * 0.5 }\n  derivatives: { h: "1.0", g: ahead + harmless }\n  outputs: { level: h }\n',
      'components/gate.yaml': gate,
      'loops/l.yaml':
        'loop: l\ncomponents: { t: { use: Tank }, g: { use: Gate, period: 500 ms } }\nwires: [{ from: t.level, to: g.level }]\nsolver: { method: runge-kutta-4, step: 125 ms }\nstop: 9 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    // Several runs: the first goes over arrays, the later ones from hit to hit.
    for (let run = 0; run < 3; run += 1) {
      const {
        result: { error },
      } = runCase(failing);
      expect(error?.message).toMatch(/division by zero in "1\.0 \/ \(h - 3\.0\)"/);
      // Where the step began in which it happens.
      expect(error?.at).toBe(2.875);
    }
  });
});
