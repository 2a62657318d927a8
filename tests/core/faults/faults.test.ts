import { describe, expect, it } from 'vitest';
import { projectOf } from '../../support/project';

/** Every message a user can meet is provoked here once, with its place: "code line:column". */
const chart = (behaviour: string, face = ''): string => `component: C\n${face}behaviour:\n  kind: chart\n  period: 1 s\n${behaviour}`;
const region = (states: string, initial = 'A'): string => `  regions:\n    r:\n      initial: ${initial}\n      states:\n${states}`;
const equations = (body: string, face = ''): string => `component: C\n${face}behaviour:\n  kind: equations\n${body}`;

function faultsOf(documents: Record<string, string>): string[] {
  return projectOf(documents).faults.map(({ code, place }) => `${code} ${place.line}:${place.column}`);
}
const ofComponent = (text: string): string[] => faultsOf({ 'components/c.yaml': text });

describe('faults of a component', () => {
  it.each<[string, string, string[]]>([
    ['unknown kind', 'component: C\nbehaviour: { kind: magic }\n', ['shape 2:20']],
    ['no behaviour', 'component: C\n', ['shape 1:1']],
    ['unknown key', equations('  outptus: {}\n'), ['shape 4:3']],
    ['input without type', equations('  let: {}\n', 'inputs: { u: { unit: m } }\n'), ['shape 2:14']],
    ['wrong kind of value', equations('  let: {}\n', 'inputs: { u: { type: LREAL, min: low } }\n'), ['shape 2:34']],
    ['bad name', equations('  let: { 2nd: "1" }\n'), ['shape 4:10']],
    ['double underscore', equations('  let: { a__b: "1" }\n'), ['shape 4:10']],
    ['unknown unit', equations('  let: {}\n', 'inputs: { u: { type: LREAL, unit: blub } }\n'), ['unknown-unit 2:35']],
    ['limits crossed', equations('  let: {}\n', 'inputs: { u: { type: LREAL, min: 3, max: 1 } }\n'), ['outside-limits 2:34']],
    ['default outside limits', equations('  let: {}\n', 'parameters: { p: { value: 7, max: 5 } }\n'), ['outside-limits 2:27']],
    ['parameter of wrong type', equations('  let: {}\n', 'parameters: { p: { value: fast, type: LREAL } }\n'), ['type 2:27']],
    ['state without derivative', equations('  states: { s: { start: 0 } }\n'), ['unknown-name 4:13']],
    ['derivative without state', equations('  derivatives: { s: "1.0" }\n'), ['unknown-name 4:18']],
    ['output without formula', equations('  let: {}\n', 'outputs: { y: { type: LREAL } }\n'), ['unknown-name 2:12']],
    ['formula without output', equations('  outputs: { y: "1.0" }\n'), ['unknown-name 4:14']],
    [
      'start that reads a state',
      equations('  states: { s: { start: 0 }, t: { start: s } }\n  derivatives: { s: "1.0", t: "1.0" }\n'),
      ['unknown-name 4:42'],
    ],
    ['name used twice', equations('  let: { u: "1.0" }\n', 'inputs: { U: { type: LREAL } }\n'), ['duplicate-name 5:10']],
    ['time taken', equations('  let: { time: "1.0" }\n'), ['duplicate-name 4:10']],
    ['unknown name in a formula', equations('  let: { a: "1 + b" }\n'), ['unknown-name 4:18']],
    ['unknown function', equations('  let: { a: "SQT(4)" }\n'), ['unknown-name 4:14']],
    ['too few operands', equations('  let: { a: "ATAN2(1)" }\n'), ['type 4:14']],
    ['operator without operand', equations('  let: { a: "1 +" }\n'), ['syntax 4:17']],
    ['two values in a row', equations('  let: { a: "1 2" }\n'), ['syntax 4:16']],
    ['open parenthesis', equations('  let: { a: "(1" }\n'), ['syntax 4:16']],
    ['stray character', equations('  let: { a: "1 # 2" }\n').replace('#', '@'), ['syntax 4:16', 'syntax 4:18']],
    ['division by a literal zero', equations('  let: { a: "1 / 0" }\n'), ['type 4:14']],
    ['AND of numbers', equations('  let: { a: "SEL(1 AND TRUE, 1, 2)" }\n'), ['type 4:18']],
    ['minus of a BOOL', equations('  let: { a: "-TRUE" }\n'), ['type 4:14']],
    ['MOD of fractions', equations('  let: { a: "7.5 MOD x" }\n', 'parameters: { x: { value: 2 } }\n'), ['type 5:14']],
    ['TIME without unit', equations('  let: {}\n', 'parameters: { p: { value: 7, type: TIME } }\n'), ['type 2:27']],
  ])('%s', (_, text, wanted) => expect(ofComponent(text)).toEqual(wanted));

  it.each<[string, string, string[]]>([
    ['period without unit', chart(region('        A: {}\n')).replace('1 s', '1'), ['time 4:11']],
    ['initial state unknown', chart(region('        A: {}\n', 'B')), ['unknown-name 7:16']],
    [
      'target unknown',
      chart(region('        A: { go: [{ to: Bee, when: TRUE }] }\n        B: { go: [{ to: A, when: TRUE }] }\n')),
      ['unknown-name 9:25'],
    ],
    ['transition without cause', chart(region('        A: { go: [{ to: A }] }\n')), ['shape 9:19']],
    ['guard that is a number', chart(region('        A: { go: [{ to: A, when: "1 + 1" }] }\n')), ['type 9:35']],
    ['duration that is none', chart(region('        A: { go: [{ to: A, after: TRUE }] }\n')), ['time 9:35']],
    ['writing to an input', chart(region('        A: { entry: "u := 1.0;" }\n'), 'inputs: { u: { type: LREAL } }\n'), ['type 10:22']],
    ['writing to nothing', chart(region('        A: { entry: "y := 1.0;" }\n')), ['unknown-name 9:22']],
    ['statement without :=', chart(region('        A: { entry: "y = 1.0;" }\n'), 'outputs: { y: { type: LREAL } }\n'), ['syntax 10:24']],
    ['IF without END_IF', chart(region('        A: { entry: "IF TRUE THEN y := 1.0;" }\n'), 'outputs: { y: { type: LREAL } }\n'), ['syntax 10:44']],
    [
      'two faults in one routine',
      chart(region('        A: { entry: "y := ; z := 1.0;" }\n'), 'outputs: { y: { type: LREAL } }\n'),
      ['syntax 10:27', 'unknown-name 10:29'],
    ],
    ['initial value of a variable', chart(`  variables: { n: { type: INT, start: 1.5 } }\n${region('        A: {}\n')}`), ['type 5:39']],
    ['literal too large for INT', chart(`  variables: { n: { type: INT } }\n${region('        A: { entry: "n := 40000;" }\n')}`), ['type 10:27']],
    [
      'across parallel regions',
      chart(`${region('        A: { go: [{ to: q.Z, when: TRUE }] }\n')}    q: { initial: Z, states: { Z: {} } }\n`),
      ['type 9:25'],
    ],
  ])('chart: %s', (_, text, wanted) => expect(ofComponent(text)).toEqual(wanted));
});

describe('faults of loops, cases and requirements', () => {
  const gain =
    'component: Gain\ninputs: { u: { type: LREAL, unit: m } }\noutputs: { y: { type: LREAL, unit: m, max: 9 } }\nparameters: { k: { value: 1, max: 5 } }\nbehaviour: { kind: equations, outputs: { y: "k * u" } }\n';
  const base = {
    'components/gain.yaml': gain,
    'loops/l.yaml':
      'loop: l\ncomponents:\n  a: { use: Gain }\ninputs:\n  u: { to: a.u }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
    'cases/c.yaml': 'case: c\nloop: l\n',
    'requirements/r.yaml':
      'section: s\nrequirements:\n  - requirement: R1\n    text: t\n    criteria:\n      - { criterion: c, sentence: "always y <= 9 m" }\n',
  };
  const changed = (file: keyof typeof base, from: string, to: string): string[] => {
    expect(base[file]).toContain(from);
    return faultsOf({ ...base, [file]: base[file].replace(from, to) });
  };
  it('the base is clean', () => expect(faultsOf(base)).toEqual([]));
  it.each<[string, keyof typeof base, string, string, string[]]>([
    ['unknown component', 'loops/l.yaml', 'use: Gain', 'use: Gian', ['unknown-name 3:13', 'unknown-name 6:43']],
    ['unknown parameter', 'loops/l.yaml', 'use: Gain', 'use: Gain, parameters: { q: 1 }', ['unknown-name 3:33']],
    ['parameter outside', 'loops/l.yaml', 'use: Gain', 'use: Gain, parameters: { k: 6 }', ['outside-limits 3:36']],
    ['unknown port', 'loops/l.yaml', 'to: a.u', 'to: a.v', ['unconnected-input 3:3', 'unknown-name 5:12']],
    ['input driven twice', 'loops/l.yaml', 'solver', 'wires: [{ from: a.y, to: a.u }]\nsolver', ['driven-twice 6:26']],
    ['unconnected', 'loops/l.yaml', 'inputs:\n  u: { to: a.u }\n', '', ['unconnected-input 3:3']],
    ['no step', 'loops/l.yaml', ', step: 10 ms', '', ['period 6:9']],
    ['unknown method', 'loops/l.yaml', 'runge-kutta-4', 'runge-kutta-9', ['shape 6:19']],
    ['not whole nanoseconds', 'loops/l.yaml', '10 ms', '0.5 ns', ['time 6:40']],
    ['negative stop', 'loops/l.yaml', 'stop: 1 s', 'stop: -1 s', ['time 7:7']],
    ['unknown loop', 'cases/c.yaml', 'loop: l', 'loop: m', ['unknown-name 2:7']],
    ['unknown input', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { v: [{ hold: 1 }] }', ['unknown-name 3:12']],
    ['unknown input at wrong times', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { v: [{ step: 1, at: 5 }] }', ['unknown-name 3:12', 'time 3:31']],
    ['value of wrong type', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { u: [{ hold: TRUE }] }', ['type 3:24']],
    ['unknown form of stimulus', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { u: [{ jump: 1 }] }', ['shape 3:16']],
    ['stimuli out of order', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { u: [{ step: 1, at: 2 s }, { step: 2, at: 1 s }] }', ['time 3:38']],
    ['ramp that ends before it begins', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { u: [{ ramp: 1, from: 2 s, until: 1 s }] }', ['time 3:45']],
    ['hold that comes late', 'cases/c.yaml', 'loop: l', 'loop: l\nstimuli: { u: [{ step: 1, at: 1 s }, { hold: 2 }] }', ['time 3:38']],
    ['unknown parameter of a case', 'cases/c.yaml', 'loop: l', 'loop: l\nparameters: { a.kk: 1 }', ['unknown-name 3:15']],
    ['unknown state of a case', 'cases/c.yaml', 'loop: l', 'loop: l\ninitial: { a.h: 1 }', ['unknown-name 3:12']],
    ['wait without limit', 'cases/c.yaml', 'loop: l', 'loop: l\nscript: [{ wait: { until: u > 1 } }]', ['shape 3:18']],
    ['wait for a number', 'cases/c.yaml', 'loop: l', 'loop: l\nscript: [{ wait: { until: u + 1, give_up_after: 1 s } }]', ['type 3:27']],
    ['set of an unknown input', 'cases/c.yaml', 'loop: l', 'loop: l\nscript: [{ set: { w: 1 } }]', ['unknown-name 3:19']],
    ['meant for nobody', 'cases/c.yaml', 'loop: l', 'loop: l\nmeant_for: [R7]', ['unknown-name 3:13']],
    ['seed out of range', 'cases/c.yaml', 'loop: l', 'loop: l\nseed: -4', ['shape 3:7']],
    ['unknown signal', 'requirements/r.yaml', 'always y', 'always z', ['unknown-name 6:43']],
    ['unit of another kind', 'requirements/r.yaml', '9 m', '9 s', ['unit 6:43']],
    ['no sentence', 'requirements/r.yaml', 'always y', 'y', ['syntax 6:36']],
    [
      'requirement twice',
      'requirements/r.yaml',
      '  - requirement: R1\n',
      '  - { requirement: r1, text: x }\n  - requirement: R1\n',
      ['duplicate-name 4:18'],
    ],
    ['criterion twice', 'requirements/r.yaml', '      - {', '      - { criterion: C, sentence: "never y > 9" }\n      - {', ['duplicate-name 7:22']],
    ['unknown way to verify', 'requirements/r.yaml', '    text: t', '    text: t\n    verify_by: luck', ['shape 5:16']],
  ])('%s', (_, file, from, to, wanted) => expect(changed(file, from, to)).toEqual([...wanted].sort(byPlace)));

  it('the same component in two files, and a folder without project.yaml', () => {
    expect(faultsOf({ ...base, 'components/other.yaml': gain })).toEqual(['duplicate-name 1:12']);
    expect(projectOf({}).faults).toEqual([]);
  });

  it('a short name that could mean two things asks for more', () => {
    const two = base['loops/l.yaml'].replace('  a: { use: Gain }\n', '  a: { use: Gain }\n  b: { use: Gain }\n').replace('to: a.u', 'to: [a.u, b.u]');
    const { faults } = projectOf({ ...base, 'loops/l.yaml': two });
    expect(faults.map((fault) => fault.message)).toEqual(['"y" could be a.y or b.y.']);
  });

  it('a step that does not divide the period names both', () => {
    const clock = chart(region('        A: {}\n'));
    const loop = 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 300 ms }\nstop: 1 s\n';
    expect(projectOf({ 'components/c.yaml': clock, 'loops/l.yaml': loop }).faults[0]?.message).toMatch(/300 ms does not divide .*1000 ms/);
  });

  it('two charts that wait for each other within one hit are a ring', () => {
    const echo = chart(region('        A: { stay: "y := u;" }\n'), 'inputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\n');
    const loop =
      'loop: l\ncomponents: { p: { use: C }, q: { use: C } }\nwires: [{ from: p.y, to: q.u }, { from: q.y, to: p.u }]\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 1 s\n';
    expect(projectOf({ 'components/c.yaml': echo, 'loops/l.yaml': loop }).faults.map((fault) => fault.code)).toEqual(['sampled-ring']);
  });
});

// Each of these texts, found by mutation (npm run fuzz), once ended the check with an exception.
describe('texts that broke a reader', () => {
  it.each([
    ['an empty document', { 'cases/c.yaml': '' }, 'The document is empty.'],
    [
      'a key without a value',
      { 'loops/l.yaml': 'loop: l\ncomponents: { a }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 1 s\n' },
      '"components.a" must be of type object.',
    ],
    [
      'an unknown key with a value of another shape',
      { 'loops/l.yaml': 'loop: l\ncomponents: {}\ninputs: { "9u": 5 }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 1 s\n' },
      '"9u" is not known here.',
    ],
    ['a chart without a region', { 'components/c.yaml': chart('  regions: {}\n') }, '"behaviour.regions" must have at least 1 key.'],
    [
      'a transition without anything that it waits for',
      { 'components/c.yaml': chart(region('        A: { go: [{ to: B }] }\n        B: {}\n')) },
      'A transition needs "on", "when" or "after".',
    ],
  ])('%s', (_, documents, message) => expect(projectOf(documents).faults.map((fault) => fault.message)).toContain(message));
});

function byPlace(a: string, b: string): number {
  const [la = 0, ca = 0] = (a.split(' ')[1] ?? '').split(':').map(Number);
  const [lb = 0, cb = 0] = (b.split(' ')[1] ?? '').split(':').map(Number);
  return la - lb || ca - cb;
}
