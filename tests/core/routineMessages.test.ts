import { describe, expect, it } from 'vitest';
import { orderRun } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';
import { expectSameBits } from './compiled/program';

const press = (body: string): string => `component: Press
messages: { in: { strike: { type: LREAL }, stop: {} }, out: { done: { type: LREAL } } }
outputs: { count: { type: DINT }, force: { type: LREAL }, stopped: { type: BOOL } }
behaviour:
  kind: routine
  period: 100 ms
  body: |
${body
  .split('\n')
  .map((line) => `    ${line}`)
  .join('\n')}
`;
const body = `IF strike THEN count := count + 1; force := payload; SEND(done, VALUE := 10.0 * payload); END_IF;
IF stop THEN stopped := TRUE; END_IF;`;
const files = {
  'components/press.yaml': press(body),
  'components/board.yaml': `component: Board
messages: { in: { done: { type: LREAL } }, out: { strike: { type: LREAL } } }
outputs: { seen: { type: LREAL } }
behaviour:
  kind: chart
  period: 100 ms
  regions:
    r:
      initial: Rest
      states:
        Rest: { go: [{ to: Wait, after: 300 ms, do: "SEND(strike, VALUE := 2.0); SEND(strike, VALUE := 3.0);" }, { to: Rest, on: done, do: "seen := seen + payload;" }] }
        Wait: { go: [{ to: Wait, on: done, do: "seen := seen + payload;" }] }
`,
  'loops/l.yaml':
    'loop: l\ncomponents: { board: { use: Board }, press: { use: Press } }\nwires: [{ from: board.strike, to: press.strike }, { from: press.done, to: board.done }]\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 2 s\n',
  'cases/c.yaml': 'case: only\nloop: l\nscript: [{ hold: 1 s }, { send: press.stop }]\n',
};
const faultsOf = (text: string): string[] =>
  projectOf({ ...files, 'components/press.yaml': press(text) }).faults.map((one) => `${one.message} ${one.fix}`);

describe('messages of a routine', () => {
  it('are taken one a hit, in their order, with their values; answers reach who waits for them', () => {
    const project = projectOf(files);
    expect(project.faults).toEqual([]);
    const { trace, result } = runCase(project);
    expect(result.error).toBeUndefined();
    const values = (name: string): [number, number][] => {
      const { time, data } = column(trace, name);
      return [...data].flatMap((value, row) =>
        value === data[row - 1] ? [] : [[Math.round((time[row] ?? 0) * 10) / 10, value] as [number, number]],
      );
    };
    // Two messages of one hit: the second waits for the next.
    const counted = values('press.count');
    expect(counted.map(([, value]) => value)).toEqual([0, 1, 2]);
    expect(counted[2]![0] - counted[1]![0]).toBeCloseTo(0.1, 9);
    expect(values('press.force').map(([, value]) => value)).toEqual([0, 2, 3]);
    expect(values('board.seen').map(([, value]) => value)).toEqual([0, 20, 50]);
    // From a case's script.
    const stopped = values('press.stopped');
    expect(stopped[1]![1]).toBe(1);
    expect(stopped[1]![0]).toBeGreaterThanOrEqual(1);
    expect(stopped[1]![0]).toBeLessThanOrEqual(1.1);
  });

  it('are the same in C', async () => {
    const project = projectOf({ ...files, 'cases/c.yaml': 'case: only\nloop: l\n' });
    const { faulty, trace } = await expectSameBits(orderRun(project, project.cases[0]!));
    expect(faulty).toBe(false);
    expect(column(trace, 'press.count').data.at(-1)).toBe(2);
  });

  it.each([
    ['SEND(dne);', 'There is no message "dne" that this routine sends. Did you mean "done"?'],
    ['SEND(strike);', 'There is no message "strike" that this routine sends. Declare it under messages: out: of the face.'],
    ['SEND(done, DELAY := T#1s);', 'SEND in a routine has no "DELAY". It takes VALUE; the message goes at once.'],
  ])('tells %s', (text, fault) => {
    expect(faultsOf(text)).toContain(fault);
  });

  it('have names of their own', () => {
    const text = press(body).replace('count: { type: DINT }', 'count: { type: DINT }, strike: { type: BOOL }');
    expect(projectOf({ ...files, 'components/press.yaml': text }).faults.map((one) => one.message)).toContain(
      'The name "strike" is used twice in Press (case does not count).',
    );
  });
});
