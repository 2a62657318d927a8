import { describe, expect, it } from 'vitest';
import { loopWithSet, tuningFile } from '@/core/desk';
import { nameKey } from '@/core/language';
import { openDesk } from '@/core/project';
import { projectOf } from '../support/project';

const files = {
  'components/c.yaml': `component: C
outputs: { y: { type: LREAL } }
parameters: { k: { value: 1, min: 0, max: 10, unit: s }, on: { type: BOOL, value: false }, wait: { type: TIME, value: 2 s } }
behaviour: { kind: equations, states: { x: { start: k } }, derivatives: { x: "SEL(on, -x, x)" }, outputs: { y: x } }
`,
  'components/d.yaml':
    'component: D\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 5, max: 10, unit: s } }\nbehaviour: { kind: equations, outputs: { y: k } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { c: { use: C, parameters: { k: 2 } } }\nvariants: { other: { components: { c: { use: D } } } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
  'cases/c.yaml': 'case: only\nloop: l\n',
};
const [set, second] = ['parameter_set: summer\nvalues: { c.k: 3 }\n', 'parameter_set: winter\nvalues: { c.k: 4 }\n'];
const kOf = (more: Record<string, string>, loop = 'l'): number => {
  const project = projectOf({ ...files, ...more });
  expect(project.faults).toEqual([]);
  return project.loops.get(nameKey(loop))!.plan.slots.find((one) => one.name === 'c.k')!.start;
};
const taking = (names: string): Record<string, string> => ({
  'parameters/a.yaml': set,
  'parameters/b.yaml': second,
  'loops/l.yaml': `${files['loops/l.yaml']}parameter_sets: [${names}]\n`,
});

describe('parameter sets of a loop', () => {
  it('count over what the loop gives its components, later ones over earlier ones, in its variants too', () => {
    expect(kOf({})).toBe(2);
    expect(kOf(taking('summer'))).toBe(3);
    expect(kOf(taking('summer, winter'))).toBe(4);
    expect(kOf(taking('winter, summer'), 'l/other')).toBe(3);
  });

  it('count less than what a case sets', () => {
    const project = projectOf({ ...files, ...taking('summer'), 'cases/c.yaml': 'case: only\nloop: l\nparameters: { c.k: 7 }\n' });
    expect(project.cases[0]!.experiment.overrides).toMatchObject([[expect.any(Number), 7]]);
  });

  it.each([
    ['a set that is not there', taking('sumer'), 'There is no parameter set "sumer".', 'Did you mean "summer"?'],
    [
      'a parameter that is not there',
      { ...taking('summer'), 'parameters/a.yaml': set.replace('c.k', 'c.q') },
      'There is no parameter "c.q" in the loop l, which takes this set.',
      undefined,
    ],
    [
      'a value outside its limits',
      { ...taking('summer'), 'parameters/a.yaml': set.replace('3', '30') },
      'c.k = 30 s lies outside its limits, 0 … 10 s.',
      undefined,
    ],
  ])('tells %s', (_, more, message, fix) => {
    const { faults } = projectOf({ ...files, ...more });
    expect(faults[0]).toMatchObject({ message, ...(fix ? { fix } : {}) });
  });
});

describe('a tuning found at the desk', () => {
  it('becomes a set of its own, which desks of every loop that has its names offer, and which the loop takes', () => {
    const project = projectOf(files);
    const opened = openDesk(project, { loop: 'l' });
    if (typeof opened === 'string') throw new Error(opened);
    const signal = (name: string) => opened.view.signals.find((one) => one.name === name)!;
    const file = tuningFile('Night shift', 'a desk for l', [
      { signal: signal('c.k'), value: 6.5 },
      { signal: signal('c.on'), value: 1 },
      { signal: signal('c.wait'), value: 3.5e9 },
    ]);
    expect(file).toEqual({
      path: 'parameters/night-shift.yaml',
      text: 'parameter_set: Night shift\nabout: "Found by hand on a desk for l. Designed: c.k 2, c.on FALSE, c.wait 2 s."\nvalues:\n  c.k: 6.5\n  c.on: true\n  c.wait: 3.5 s\n',
    });
    const loop = loopWithSet({ path: 'loops/l.yaml', text: files['loops/l.yaml'] }, [], 'Night shift');
    expect(loopWithSet(loop, ['Night shift'], 'Night shift')).toBe(loop);
    const next = projectOf({ ...files, [file.path]: file.text, [loop.path]: loop.text });
    // The other plant has no such parameters beside k.
    expect(next.faults).toEqual([]);
    const without = projectOf({ ...files, [file.path]: file.text });
    const sets = (name: string): string[] => {
      const desk = openDesk(without, { loop: name });
      return typeof desk === 'string' ? [desk] : desk.view.others.sets.map((one) => one.name);
    };
    expect([sets('l'), sets('l/other')]).toEqual([['Night shift'], []]);
  });
});
