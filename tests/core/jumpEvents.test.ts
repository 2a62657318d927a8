import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

/** Counts how often its input rises above a half; what it counts comes from a stimulus, or from a sampled component. */
const counter = (fromStart: boolean): string => `component: Counter
inputs: { u: { type: LREAL } }
outputs: { count: { type: LREAL } }
behaviour:
  kind: equations
  states: { n: { start: 0 } }
  derivatives: { n: "0.0" }
  events: [{ when: "u > 0.5", set: { n: "n + 1.0" }${fromStart ? ', from_start: true' : ''} }]
  outputs: { count: n }
`;
const relay =
  'component: Relay\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: routine, period: 100 ms, body: "y := u;" }\n';

function counts(levels: readonly (0 | 1)[], solver: string, fromStart = false): [direct: number, sampled: number] {
  const steps = levels.slice(1).map((level, index) => `{ step: ${level}, at: ${(index + 1) * 300} ms }`);
  const { trace } = runCase(
    projectOf({
      'components/c.yaml': counter(fromStart),
      'components/r.yaml': relay,
      'loops/l.yaml': `loop: l\ncomponents: { direct: { use: Counter }, relay: { use: Relay }, sampled: { use: Counter } }\ninputs: { u: { to: [direct.u, relay.u], start: 0 } }\nwires: [{ from: relay.y, to: sampled.u }]\nsolver: ${solver}\nstop: 5 s\n`,
      'cases/c.yaml': `case: c\nloop: l\nstimuli: { u: [{ hold: ${levels[0]} }${steps.map((one) => `, ${one}`).join('')}] }\n`,
    }),
  );
  return [column(trace, 'direct.count').data.at(-1)!, column(trace, 'sampled.count').data.at(-1)!];
}

describe.each([
  '{ method: runge-kutta-4, step: 10 ms }',
  '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-6, absolute_tolerance: 1e-8 }',
])('events that a jump makes, %s', (solver) => {
  it('are as many as the jumps', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0 as const, 1 as const), { minLength: 1, maxLength: 12 }), (levels) => {
        const rises = levels.filter((level, index) => index > 0 && level === 1 && levels[index - 1] === 0).length;
        expect(counts(levels, solver)).toEqual([rises, rises]);
        expect(counts(levels, solver, true)).toEqual([rises + levels[0]!, rises + levels[0]!]);
      }),
      { numRuns: 12 },
    );
  });

  it('bring about others at the same instant, in a chain', () => {
    const { trace } = runCase(
      projectOf({
        'components/c.yaml':
          'component: C\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { a: { start: 0 }, b: { start: 0 }, c: { start: 0 } }\n  derivatives: { a: "0.0", b: "0.0", c: "0.0" }\n  events: [{ when: "b > 0.5", set: { c: "time" } }, { when: "a > 0.5", set: { b: "1.0" } }, { when: "u > 0.5", set: { a: "1.0" } }]\n  outputs: { y: c }\n',
        'loops/l.yaml': `loop: l\ncomponents: { c: { use: C } }\ninputs: { u: { to: c.u, start: 0 } }\nsolver: ${solver}\nstop: 2 s\n`,
        'cases/c.yaml': 'case: c\nloop: l\nstimuli: { u: [{ step: 1, at: 700 ms }] }\n',
      }),
    );
    expect(column(trace, 'c.y').data.at(-1)).toBe(0.7);
  });
});
