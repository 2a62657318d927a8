import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differences, threeWays } from '../support/code';
import { column, projectOf, runCase } from '../support/project';

/** A routine that gives back what came in one hit before, and one that adds one to it: a ring, which `later` breaks. */
const ring = (later: string, body = 'VAR kept : DINT; END_VAR\nback := kept;') => ({
  'components/memory.yaml': `component: Memory
inputs: { in: { type: DINT } }
outputs: { back: { type: DINT } }
behaviour:
  kind: routine
  period: 1 s
  body: |
${body
  .split('\n')
  .map((line) => `    ${line}`)
  .join('\n')}
${later}`,
  'components/next.yaml': `component: Next
inputs: { in: { type: DINT } }
outputs: { out: { type: DINT } }
behaviour: { kind: routine, period: 1 s, body: "out := in + 1;" }
`,
  'loops/l.yaml': `loop: l
components: { memory: { use: Memory }, next: { use: Next } }
wires: [{ from: memory.back, to: next.in }, { from: next.out, to: memory.in }]
solver: { method: runge-kutta-4, step: 1 s }
stop: 5 s
`,
  'cases/c.yaml': 'case: only\nloop: l\n',
});

describe('statements that run once everything else of the hit has run', () => {
  it('break a ring: what only they read comes in one hit later', () => {
    const { trace } = runCase(projectOf(ring('  later: kept := in;')));
    expect([...column(trace, 'memory.back').data]).toEqual([0, 1, 2, 3, 4, 5]);
    expect([...column(trace, 'next.out').data]).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('without them the ring is told', () => {
    const { faults } = projectOf(ring('', 'back := in;'));
    expect(faults.map((one) => one.message).join()).toContain('wait for each other within one hit');
  });

  it('come after everything, whatever the loop is called and in whatever order it stands', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(['a', 'm', 'z'], { minLength: 3, maxLength: 3 }), fc.integer({ min: 1, max: 9 }), ([one, two, three], by) => {
        const documents = ring('  later: kept := in;');
        const loop = `loop: l
components: { ${one}: { use: Memory }, ${two}: { use: Next }, ${three}: { use: Scale } }
wires:
  - { from: ${one}.back, to: ${two}.in }
  - { from: ${two}.out, to: ${three}.in }
  - { from: ${three}.out, to: ${one}.in }
solver: { method: runge-kutta-4, step: 1 s }
stop: 4 s
`;
        const scale = `component: Scale\ninputs: { in: { type: DINT } }\noutputs: { out: { type: DINT } }\nbehaviour: { kind: routine, period: 1 s, body: "out := in * ${by};" }\n`;
        const { trace } = runCase(projectOf({ ...documents, 'loops/l.yaml': loop, 'components/scale.yaml': scale }));
        const wanted = [0];
        for (let hit = 1; hit <= 4; hit += 1) wanted.push((wanted[hit - 1]! + 1) * by);
        expect([...column(trace, `${one}.back`).data]).toEqual(wanted);
      }),
      { numRuns: 25 },
    );
  });

  it('have their faults told where they stand', () => {
    const { faults } = projectOf(ring('  later: kept := TRUE;'));
    expect(faults.map(({ place, message }) => [place.file, place.line, message])).toEqual([
      ['components/memory.yaml', 10, expect.stringContaining('BOOL')],
    ]);
  });

  it('are the same in C', async () => {
    const project = projectOf(ring('  later: kept := in;'));
    const { model, code, hosted } = await threeWays(project);
    expect(code.result.error).toBeUndefined();
    expect(differences(hosted.trace, code.trace)).toEqual([]);
    expect([...column(code.trace, 'next.out').data]).toEqual([...column(model.trace, 'next.out').data]);
  });
});
