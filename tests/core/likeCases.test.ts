import { describe, expect, it } from 'vitest';
import { restsOn } from '@/core/project';
import { projectOf, runCase } from '../support/project';

const shared = {
  'components/c.yaml':
    'component: C\ninputs: { u: { type: LREAL, max: 10 }, v: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 1, max: 9 }, m: { value: 2 } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: k * u + m * v }, outputs: { y: x } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { c: { use: C } }\ninputs: { u: { to: c.u }, v: { to: c.v } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 4 s\n',
};
const base = `case: Base
about: the first
loop: l
stop: 2 s
tags: [slow]
meant_for: []
parameters: { c.k: 3 }
stimuli: { u: [{ hold: 1 }], v: [{ hold: 5 }] }
`;
const project = (cases: Readonly<Record<string, string>>) =>
  projectOf({ ...shared, ...Object.fromEntries(Object.entries(cases).map(([name, text]) => [`cases/${name}.yaml`, text])) });
const told = (cases: Readonly<Record<string, string>>): string[] =>
  project(cases).faults.map((fault) => `${fault.place.file}:${fault.place.line}:${fault.place.column} ${fault.message}`);

describe('a case that is like another', () => {
  it('takes over values name by name and all else as a whole, but not what the other is called, about, meant for or tagged', () => {
    const found = project({ a: base, b: 'case: More\nlike: base\nparameters: { c.m: 4 }\nstimuli: { v: [{ hold: 7 }] }\n' });
    expect(found.faults).toEqual([]);
    const written = project({
      a: 'case: More\nloop: l\nstop: 2 s\nparameters: { c.k: 3, c.m: 4 }\nstimuli: { u: [{ hold: 1 }], v: [{ hold: 7 }] }\n',
    });
    expect(runCase(found, 'More').result).toEqual(runCase(written, 'More').result);
    const { raw } = found.cases.find((one) => one.experiment.case === 'More')!.document;
    expect([raw.about, raw.tags, raw.meant_for, raw.loop]).toEqual([undefined, undefined, undefined, 'l']);
  });

  it('ends as it says itself, not also as the other one does', () => {
    const found = project({
      a: base,
      b: 'case: More\nlike: base\nend: { when: c.y > 5, at_most: 3 s }\n',
      c: 'case: Again\nlike: More\nstop: 1 s\n',
    });
    expect(found.faults).toEqual([]);
    const [, more, again] = ['Base', 'More', 'Again'].map((name) => found.cases.find((one) => one.experiment.case === name)!.document.raw);
    expect([more!.stop, more!.end?.at_most, again!.stop, again!.end]).toEqual([undefined, '3 s', '1 s', undefined]);
  });

  it('goes on over several, whatever the order of the files, and rests on all of them', () => {
    const found = project({ a: 'case: Third\nlike: Second\nstop: 3 s\n', b: 'case: Second\nlike: Base\nparameters: { c.k: 2 }\n', c: base });
    expect(found.faults).toEqual([]);
    const third = found.cases.find((one) => one.experiment.case === 'Third')!;
    expect(third.document.raw).toMatchObject({ stop: '3 s', parameters: { 'c.k': 2 }, loop: 'l' });
    const rests = restsOn(found.project, third);
    expect(['cases/a.yaml', 'cases/b.yaml', 'cases/c.yaml', 'cases/d.yaml'].map((file) => rests(file))).toEqual([true, true, true, false]);
  });

  it('tells what is wrong where it is written, and once', () => {
    expect(
      told({ a: base.replace('c.k: 3', 'c.k: 30'), b: 'case: More\nlike: Base\nstimuli: { u: [{ hold: 1 }, { step: 11, at: 1 s }] }\n' }),
    ).toEqual(['cases/a.yaml:7:20 c.k = 30 is above its maximum, 9.', 'cases/b.yaml:3:37 u = 11 is above its maximum, 10.']);
  });

  it('is refused where there is no such case, or where it comes back to itself', () => {
    expect(told({ a: base, b: 'case: More\nlike: Bose\n' })).toEqual(['cases/b.yaml:2:7 There is no case "Bose".']);
    expect(told({ a: 'case: One\nlike: Two\n', b: 'case: Two\nlike: One\n' })).toEqual(['cases/b.yaml:2:7 Two is like itself, by way of "One".']);
    expect(told({ a: 'case: One\nlike: one\n' })).toEqual(['cases/a.yaml:2:7 One is like itself, by way of "one".']);
    expect(told({ a: 'case: One\n' })).toEqual(['cases/a.yaml:1:1 "loop" is required.']);
    // What is wrong with the other is told there; nothing follows from it.
    expect(told({ a: `${base}script: 7\n`, b: 'case: More\nlike: Base\n' })).toEqual(['cases/a.yaml:9:9 "script" must be an array.']);
  });
});
