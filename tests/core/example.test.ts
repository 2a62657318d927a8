import { describe, expect, it } from 'vitest';
import { type DrawnTrace, Previewer, strokeOver } from '@/core/explain';
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

  it('on a trace drawn by hand follows the pen, within ranges and whole numbers', () => {
    const flat = { time: [0, 1, 2, 3, 4], signals: ['a', 'c.y', 'n'].map((name) => ({ name, values: [0, 0, 0, 0, 0] })) };
    const risen = strokeOver(flat, 'c.y', { at: 1.1, value: 2 }, { at: 2.9, value: 9 });
    expect(risen.signals[1]?.values[0]).toBe(0);
    const judged = (sentence: string, drawn: DrawnTrace) => {
      const preview = previewer.preview(sentence, { k: 'drawn', drawn });
      if (preview.k !== 'shown') throw new Error(preview.why);
      return preview.shown;
    };
    expect(judged('always y < 5 m', flat).verdict).toBe('pass');
    // 9 m lies outside the declared range: its end stands for it.
    expect(judged('always y < 5 m', risen)).toMatchObject({ verdict: 'fail', obligations: [{ margin: { value: 0 } }] });
    const pressed = strokeOver(risen, 'a', { at: 2, value: 1 }, { at: 4, value: 1 });
    expect(judged('when a rises, within 1 s y > 4 m', pressed)).toMatchObject({ verdict: 'pass', obligations: [{ from: 2 }] });
    expect(judged('always n >= 0', strokeOver(pressed, 'n', { at: 0, value: 2.6 }, { at: 0, value: 2.6 })).trace.columns[0]?.data[0]).toBe(3);
    // A signal the drawing does not have stays at 0.
    expect(judged('never b', pressed).verdict).toBe('pass');
  });
});
