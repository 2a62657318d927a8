import { describe, expect, it } from 'vitest';
import { Previewer } from '@/core';
import { projectOf } from '../support/project';

const project = projectOf({
  'components/c.yaml': `component: C
inputs: { a: { type: BOOL }, b: { type: BOOL }, n: { type: INT, min: 0, max: 9 } }
outputs: { y: { type: LREAL, unit: m, min: 0, max: 5 } }
behaviour: { kind: equations, states: { h: { start: 0, unit: m } }, derivatives: { h: "SEL(a, 0.0, 1.0) - SEL(b, 0.0, 1.0) + INT_TO_LREAL(n) * 0.0" }, outputs: { y: h } }
`,
  'loops/l.yaml':
    'loop: l\ncomponents: { c: { use: C } }\ninputs: { a: { to: c.a }, b: { to: c.b }, n: { to: c.n } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 10 s\n',
  'cases/c.yaml': 'case: up\nloop: l\nstimuli: { a: [{ hold: false }, { step: true, at: 1 s }, { step: false, at: 4 s }] }\n',
});
const previewer = new Previewer(project);

describe('a sentence looked at', () => {
  it('on a run of a case is judged as in a campaign, with the signals it speaks of alone', () => {
    const preview = previewer.preview('when a rises, within 2 s y > 1 m', { k: 'case', case: 'up' });
    if (preview.k !== 'shown') throw new Error(preview.why);
    expect(preview.shown).toMatchObject({ verdict: 'pass', obligations: [{ from: 1, outcome: 'met' }] });
    expect(preview.shown.trace.columns.map((column) => column.name).sort()).toEqual(['a', 'c.y']);
  });

  it('that cannot be read says why', () =>
    expect(previewer.preview('always why > 3 m', { k: 'case', case: 'up' })).toMatchObject({ k: 'not', faults: [{ from: 7 }] }));

  it.each([
    'always y <= 3 m',
    'never a AND b',
    'while a, NOT b',
    'when a rises, within 2 s y > 3 m',
    'when a rises while b, for 3 s y > 3 m',
    'when y crosses 2 m upward, a until b within 5 s',
    'if a for 2 s, within 1 s b',
    'when n becomes 3, after 1 s a',
    'when a rises, between 1 s and 3 s b',
    'sequence a rises then b rises within 4 s',
  ])('%s: a trace that breaks it and one that meets it are found, within the declared ranges', (sentence) => {
    for (const [wanted, verdict] of [
      ['broken', 'fail'],
      ['met', 'pass'],
    ] as const) {
      const preview = previewer.preview(sentence, { k: 'invented', wanted });
      if (preview.k !== 'shown') throw new Error(preview.why);
      expect(preview.shown.verdict).toBe(verdict);
      for (const { name, data } of preview.shown.trace.columns)
        for (const value of data) expect(value >= 0 && value <= ({ 'c.y': 5, n: 9 }[name] ?? 1)).toBe(true);
    }
  });

  it('that nothing can break finds no trace', () =>
    expect(previewer.preview('always y <= 5 m', { k: 'invented', wanted: 'broken' })).toMatchObject({ k: 'not' }));
});
