import { describe, expect, it } from 'vitest';
import { resultFingerprint } from '@/core/evidence';
import { type WhyNot, whyNot } from '@/core/explain';
import { simulate } from '@/core/simulate';
import { projectOf } from '../support/project';

/** A gate that opens on request once the level is equal; the request comes at 1 s for 2 s, the level is equal from 4 s on. */
const files = {
  'components/c.yaml': `component: C
inputs: { request: { type: BOOL }, level: { type: LREAL } }
messages: { in: { stop: {} } }
behaviour:
  kind: chart
  period: 100 ms
  regions:
    gate:
      initial: Closed
      states:
        Closed: { go: [{ to: Opening, when: "request AND level < 0.1 AND (level > -1.0 OR request)" }] }
        Opening: { go: [{ to: Open, after: 1 s }, { to: Closed, on: stop }] }
        Open: { go: [{ to: Closed, when: "NOT request" }, { to: Opening, when: "level > 2.0 AND NOT request" }] }
`,
  'loops/l.yaml':
    'loop: l\ncomponents: { c: { use: C } }\ninputs: { request: { to: c.request }, level: { to: c.level } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 10 s\n',
};

function asked(stimuli: string, from: string, to: string, script = ''): WhyNot {
  const project = projectOf({ ...files, 'cases/c.yaml': `case: c\nloop: l\nstimuli: ${stimuli}\n${script}` });
  const { experiment } = project.cases[0] as (typeof project.cases)[0];
  const transition = experiment.plan.transitions.findIndex((one) => one.source.endsWith(from) && one.to === to);
  return whyNot(experiment, transition);
}

const tooLate = '{ request: [{ hold: false }, { step: true, at: 1 s }, { step: false, at: 3 s }], level: [{ hold: 1 }, { step: 0, at: 4 s }] }';
const inTime =
  '{ request: [{ hold: false }, { step: true, at: 1 s }, { step: false, at: 6 s }], level: [{ hold: 3 }, { step: 0, at: 2 s }, { step: 3, at: 5 s }] }';

describe('why a transition was not taken', () => {
  it('names each clause with the time in which it was FALSE', () => {
    const { taken, active, clauses, nearest } = asked(tooLate, 'Closed', 'Opening');
    expect(taken).toEqual([]);
    expect(active).toEqual([{ from: 0, until: 10 }]);
    expect(clauses).toEqual([
      { text: 'no message is being handled', missing: [] },
      {
        text: 'request',
        missing: [
          { from: 0, until: 1 },
          { from: 3, until: 10 },
        ],
      },
      { text: 'level < 0.1', missing: [{ from: 0, until: 4 }] },
      { text: '(level > -1.0 OR request)', missing: [] },
    ]);
    expect(nearest).toEqual({ at: 1, missing: ['level < 0.1'] });
  });

  it('tells when it was taken, and where it stands in the text', () => {
    const { taken, file, line, nearest } = asked(inTime, 'Closed', 'Opening');
    expect(taken).toEqual([2]);
    expect(file).toBe('components/c.yaml');
    expect(line).toBe(11);
    expect(nearest).toBeUndefined();
  });

  it('tells that another one, earlier in the text, was taken instead', () => {
    const { taken, overtaken } = asked(inTime, 'Open', 'Opening');
    expect(taken).toEqual([]);
    expect(overtaken).toEqual([6]);
  });

  it('counts the time in a state, and knows of messages', () => {
    const waited = asked(inTime, 'Opening', 'Open');
    expect(waited.taken).toEqual([3]);
    expect(waited.clauses.at(-1)).toEqual({ text: 'after 1 s', missing: [{ from: 2, until: 3 }] });
    const stopped = asked(inTime, 'Opening', 'Closed', 'script: [{ hold: 2500 ms }, { send: stop }]\n');
    expect(stopped.taken).toEqual([2.5]);
    expect(asked(inTime, 'Opening', 'Closed').clauses[0]?.text).toBe('message stop');
  });

  it('says when the source state was never active', () => {
    const { active, nearest } = asked(tooLate, 'Open', 'Closed');
    expect(active).toEqual([]);
    expect(nearest).toBeUndefined();
  });

  it('leaves the run and its fingerprint as they are', () => {
    const project = projectOf({ ...files, 'cases/c.yaml': `case: c\nloop: l\nstimuli: ${inTime}\n` });
    const { experiment } = project.cases[0] as (typeof project.cases)[0];
    const before = [resultFingerprint(experiment), simulate(experiment).trace.columns.map((column) => [...column.data])];
    whyNot(experiment, 0);
    expect([resultFingerprint(experiment), simulate(experiment).trace.columns.map((column) => [...column.data])]).toEqual(before);
  });
});
