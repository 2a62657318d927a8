import { archiveOf, tankDescription } from '../../support/units';

/** Documents of a project, by their path. */
export type Documents = Readonly<Record<string, string>>;

const component = (behaviour: string, face = ''): Documents => ({ 'components/c.yaml': `component: C\n${face}behaviour:\n${behaviour}` });
const equations = (body: string, face = ''): Documents => component(`  kind: equations\n${body}`, face);
const formula = (text: string, face = ''): Documents => equations(`  let: { a: ${JSON.stringify(text)} }\n`, face);
const chart = (states: string, face = '', more = ''): Documents =>
  component(`  kind: chart\n  period: 1 s\n${more}  regions:\n    r:\n      initial: A\n      states:\n${states.replace(/^/gm, '        ')}\n`, face);
const routine = (body: string, face = ''): Documents => component(`  kind: routine\n  period: 1 s\n  body: ${JSON.stringify(body)}\n`, face);
const network = (
  parts: string,
  outputs = 'y: g.out',
  face = 'inputs: { u: { type: LREAL, unit: m } }\noutputs: { y: { type: LREAL } }\n',
): Documents => component(`  kind: network\n  period: 1 s\n  parts:\n${parts.replace(/^/gm, '    ')}\n  outputs: { ${outputs} }\n`, face);
const table = (conditions: string, rules: string, more = ''): Documents =>
  component(`  kind: decision table\n  period: 1 s\n  conditions: { ${conditions} }\n  rules:\n${rules.replace(/^/gm, '    ')}\n${more}`, tableFace);
const tableFace = 'inputs: { hot: { type: BOOL }, t: { type: LREAL } }\noutputs: { y: { type: BOOL } }\n';
const recording = (outputs: string, csv?: string): Documents => ({
  ...component(`  kind: recording\n  file: recordings/a.csv\n  outputs: { ${outputs} }\n`, 'outputs: { y: { type: LREAL, unit: m } }\n'),
  ...(csv === undefined ? {} : { 'recordings/a.csv': csv }),
});
const modes: Documents = { 'definitions.yaml': 'enumerations: { Mode: [Off, Run], Vent: [Closed, Off, Open] }\n' };
/** A component that stands for a co-simulation unit. @param change what is otherwise in the component, and in the description of the unit */
const unit = (
  change: readonly [string, string] = ['', ''],
  { archive, description = ['', ''] }: { readonly archive?: string; readonly description?: readonly [string, string] } = {},
): Documents => ({
  'components/c.yaml': component(
    '  kind: unit\n  period: 50 ms\n  file: units/tank.fmu\n  variables: { inflow: pump.inflow, level: tank.level, area: tank.area }\n',
    'inputs: { inflow: { type: LREAL, unit: m3/s }, open: { type: BOOL } }\noutputs: { level: { type: LREAL, unit: m } }\nparameters: { area: { value: 2, unit: m2 } }\n',
  )['components/c.yaml']!.replace(...change),
  'units/tank.fmu':
    archive ?? archiveOf({ 'modelDescription.xml': tankDescription.replace(...description), 'binaries/linux64/hand_tank.so': 'a library' }),
});
const structuredText = (text: string): Documents => ({ 'components/c.st': text });
const scxml = (body: string, attributes = ''): Documents => ({
  'components/c.scxml': `<scxml xmlns="http://www.w3.org/2005/07/scxml" xmlns:o="urn:ovrand:chart" version="1.0" o:period="1 s" ${attributes}>\n${body}\n</scxml>\n`,
});

/** A sound project with two parts, for what is wrong about them together. */
export const sound: Documents = {
  'components/tank.yaml':
    'component: Tank\ninputs: { valve: { type: LREAL, unit: "%" } }\noutputs: { level: { type: LREAL, unit: m, min: 0, max: 6 } }\nparameters: { area: { value: 2, min: 1, max: 5, unit: m2, tuning: fixed } }\nbehaviour: { kind: equations, states: { h: { start: 1 } }, derivatives: { h: "valve / area" }, outputs: { level: h } }\n',
  'components/guard.yaml':
    'component: Guard\ninputs: { level: { type: LREAL, unit: m } }\noutputs: { open: { type: BOOL } }\nmessages: { in: { reset: }, out: { full: } }\nbehaviour: { kind: chart, period: 1 s, regions: { r: { initial: A, states: { A: { go: [{ to: B, when: level > 3 }] }, B: { entry: "open := TRUE; SEND(full);", go: [{ to: A, on: reset }] } } } } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents:\n  tank: { use: Tank }\n  guard: { use: Guard }\ninputs:\n  valve: { to: tank.valve }\nwires:\n  - { from: tank.level, to: guard.level }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 10 s\n',
  'cases/c.yaml': 'case: c\nloop: l\nstimuli:\n  valve: [{ hold: 1 }]\n',
  'requirements/r.yaml':
    'section: S\nrequirements:\n  - requirement: R1\n    text: It stays low.\n    criteria:\n      - { criterion: low, sentence: always tank.level <= 5 m }\n',
};
const but = (file: keyof typeof sound, from: string, to: string, more: Documents = {}): Documents => {
  const text = sound[file] ?? '';
  if (!text.includes(from)) throw new Error(`${file} holds no ${from}`);
  return { ...sound, [file]: text.replace(from, to), ...more };
};
const sentence = (text: string): Documents => but('requirements/r.yaml', 'always tank.level <= 5 m', JSON.stringify(text));
const desk = (items: string): Documents => ({ ...sound, 'desks/d.yaml': `desk: d\nloop: l\nitems:\n  - ${items}\n` });
/** A controller that can be wired, and the sheet that wires it. */
const wired = (sheet: string, more: Documents = {}): Documents => ({
  'components/law.yaml':
    'component: Law\ninputs: { level: { type: LREAL, unit: m, min: 0, max: 6 }, far: { type: DINT } }\noutputs: { valve: { type: LREAL, unit: "%", min: 0, max: 100 } }\nbehaviour: { kind: routine, period: 1 s, body: "valve := 10.0 * level + DINT_TO_LREAL(far);" }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { law: { use: Law } }\ninputs: { level: { to: law.level }, far: { to: law.far } }\nunused: [law.valve]\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
  'benches/b.yaml': `bench: Rig\nloop: l\ncycle: 1 s\n${sheet}`,
  ...more,
});
const channels = 'inputs: { level: {}, far: { low: 0, high: 9 } }\noutputs: { law.valve: {} }\n';
const benchCase = (step: string): Documents => wired(channels, { 'cases/c.yaml': `case: c\nloop: l\nscript:\n  - bench: ${step}\n` });
/** The controller of one loop in another. */
const paired = (change: readonly [string, string] = ['', ''], more: Documents = {}): Documents => ({
  'components/law.yaml':
    'component: Law\ninputs: { level: { type: LREAL, unit: m }, on: { type: BOOL } }\noutputs: { valve: { type: LREAL, unit: "%" }, lamp: { type: BOOL } }\nparameters: { gain: { value: 2 } }\nbehaviour: { kind: routine, period: 1 s, body: "valve := gain * level; lamp := on;" }\n',
  'components/pond.yaml':
    'component: Pond\ninputs: { gate: { type: LREAL, unit: "%" } }\noutputs: { depth: { type: LREAL, unit: m }, area: { type: LREAL, unit: m2 } }\nbehaviour: { kind: equations, states: { h: { start: 0 } }, derivatives: { h: gate }, outputs: { depth: h, area: "2.0 * h" } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { law: { use: Law } }\ninputs: { level: { to: law.level }, on: { to: law.on } }\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
  'loops/pond.yaml':
    'loop: pond\ncomponents: { law: { use: Law }, pond: { use: Pond } }\ninputs: { on: { to: law.on } }\nwires: [{ from: pond.depth, to: law.level }, { from: law.valve, to: pond.gate }]\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
  'loops/bare.yaml':
    'loop: bare\ncomponents: { pond: { use: Pond } }\ninputs: { gate: { to: pond.gate } }\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
  'pairings/p.yaml':
    'pairing: p\ncontroller: l\nhost: pond\ninputs: { law.level: pond.depth }\noutputs: { law.valve: pond.gate }\nunused: [law.lamp]\n'.replace(
      ...change,
    ),
  ...more,
});
const scene = (move: string, svg = '<svg xmlns="http://www.w3.org/2000/svg"><rect id="bar"/></svg>'): Documents => ({
  ...sound,
  'scenes/s.yaml': `scene: s\nloop: l\npicture: p.svg\nmoves:\n  - ${move}\n`,
  'scenes/p.svg': svg,
});

const number = 'inputs: { u: { type: LREAL } }\n';
const out = 'outputs: { y: { type: LREAL } }\n';
const bool = 'inputs: { u: { type: BOOL } }\noutputs: { y: { type: BOOL } }\n';

/** For each message that a check of a project can give, documents that provoke it. */
export const examples: readonly (readonly [subject: string, documents: Documents])[] = [
  // Files
  ['an empty document', { 'components/c.yaml': '' }],
  ['no project', { 'project.yaml': '', 'components/c.yaml': 'component: C\n' }],
  ['a controller that is not there', { ...sound, 'project.yaml': 'project: Test\ncontroller: { components: [Gard] }\n' }],
  ['a tolerance of no signal', { ...sound, 'project.yaml': 'project: Test\ncontroller: { tolerances: { tank.levl: 0.1 } }\n' }],
  ['code of what is continuous', { ...sound, 'project.yaml': 'project: Test\nstages: [model, code]\ncontroller: { components: [Tank] }\n' }],
  // Benches
  ['a bench of no loop', wired(channels, { 'benches/c.yaml': `bench: C\nloop: k\ncycle: 1 s\n${channels}` })],
  [
    'a bench for what sends messages',
    { ...sound, 'benches/b.yaml': 'bench: B\nloop: l\ncycle: 1 s\ninputs: { level: {} }\noutputs: { guard.open: {} }\n' },
  ],
  [
    'a bench for what is no code',
    {
      ...sound,
      'project.yaml': 'project: Test\ncontroller: { components: [Tank] }\n',
      'benches/b.yaml': `bench: B\nloop: l\ncycle: 1 s\n${channels}`,
    },
  ],
  ['a strange address', wired(`controller: nowhere\n${channels}`)],
  ['a controller in a hurry', wired(`controller: "10.0.0.2:502"\nspeed: 3\n${channels}`)],
  ['a stand-in with a program of its own', wired(`program: own\n${channels}`)],
  ['an input without a channel', wired('inputs: { level: {} }\noutputs: { law.valve: {} }\n')],
  ['a channel of nothing', wired(channels.replace('far:', 'fra:'))],
  ['a register of 16 bits for 32', wired(channels.replace('{ low: 0, high: 9 }', '{}'))],
  ['a range of nothing', wired(channels.replace('level: {}', 'level: { low: 3, high: 3 }'))],
  ['another signal than is wired', wired(channels.replace('level: {}', 'level: { signal: far }'))],
  ['a register that is given by the build', wired(channels.replace('level: {}', 'level: { register: 7 }'))],
  ['counts that are the same', wired(channels.replace('level: {}', 'level: { counts: [5, 5] }'))],
  [
    'a register twice',
    wired(
      `controller: "10.0.0.2:502"\nprogram: own\n${channels.replace('level: {}', 'level: { register: 7 }').replace('low: 0', 'register: 7, low: 0')}`,
    ),
  ],
  ['a filter of an output', wired(channels.replace('law.valve: {}', 'law.valve: { filter: 20 ms }'))],
  ['a filter of no time', wired(channels.replace('level: {}', 'level: { filter: soon }'))],
  ['a fault of a bench without one', { ...sound, 'cases/c.yaml': 'case: c\nloop: l\nscript:\n  - bench: { bus: lost }\n' }],
  ['a fault of no channel', benchCase('{ channel: levle, gain: 2 }')],
  ['a swap with nothing', benchCase('{ channel: level, swapped: law.valve }')],
  [
    'a switch that is out of reach',
    wired(`controller: "10.0.0.2:502"\nprogram: own\n${channels}`, {
      'cases/c.yaml': 'case: c\nloop: l\nscript:\n  - bench: { bus: power cycle }\n',
    }),
  ],
  ['a stage without a bench', { ...sound, 'project.yaml': 'project: Test\nstages: [model, bench]\ncontroller: { components: [Guard] }\n' }],
  ['YAML that cannot be read', { 'components/c.yaml': 'component: [C\n' }],
  ['a key twice', { 'components/c.yaml': 'component: C\ncomponent: D\n' }],
  ['an alias', { 'components/c.yaml': 'component: &a C\nabout: *a\n' }],
  ['a tag', { 'components/c.yaml': 'component: !odd C\n' }],
  ['a document that is too long', { 'components/c.yaml': `component: C\nabout: ${'x'.repeat(2_000_001)}\n` }],
  ['nesting without end', { 'components/c.yaml': `component: ${'['.repeat(20_000)}${']'.repeat(20_000)}\n` }],
  ['an unknown key', equations('  outptus: {}\n')],
  ['a comma in a text without quotes', equations('  outputs: { y: 0 }\n', 'about: x\noutputs: { y: { type: LREAL, about: Open, or closed } }\n')],
  ['a missing key', { 'components/c.yaml': 'component: C\n' }],
  ['a component twice', { 'components/c.yaml': sound['components/tank.yaml']!, 'components/d.yaml': sound['components/tank.yaml']! }],
  ['a document that is no SVG', scene('{ part: bar, by: level, set: y, to: [0, 1] }', '<html/>')],
  [
    'a picture with more than shapes',
    scene('{ part: bar, by: tank.level, set: y, to: [0, 1] }', '<svg xmlns="http://www.w3.org/2000/svg"><script>1</script><rect id="bar"/></svg>'),
  ],
  ['XML that is not well-formed', scxml('<state id="a">')],
  ['a document type', { 'components/c.scxml': '<!DOCTYPE scxml [<!ENTITY a "b">]>\n<scxml xmlns="http://www.w3.org/2005/07/scxml"/>\n' }],
  // Faces
  ['a name twice in a face', equations('  let: { u: "1.0" }\n', 'inputs: { U: { type: LREAL } }\n')],
  ['the name time', formula('1.0', 'inputs: { time: { type: LREAL } }\n')],
  ['an unknown unit of a port', formula('1.0', 'inputs: { u: { type: LREAL, unit: blub } }\n')],
  ['limits that cross', formula('1.0', 'inputs: { u: { type: LREAL, min: 3, max: 1 } }\n')],
  ['a value outside its limits', formula('1.0', 'parameters: { p: { value: 7, max: 5 } }\n')],
  ['a value of another type', formula('1.0', 'parameters: { p: { value: fast, type: LREAL } }\n')],
  ['a time without a unit', formula('1.0', 'parameters: { p: { value: 7, type: TIME } }\n')],
  ['a picture that is not there', formula('1.0', 'picture: swan\n')],
  [
    'a constraint that does not hold',
    { ...sound, 'components/tank.yaml': sound['components/tank.yaml']!.replace('behaviour:', 'constraints: [{ holds: area > 3 }]\nbehaviour:') },
  ],
  ['a definition twice', { 'definitions.yaml': 'constants: { g: { value: 9.81 }, G: { value: 9.8 } }\n' }],
  ['a constant with the name of a value', { 'definitions.yaml': 'constants: { g: { value: 9.81 } }\nenumerations: { Mode: [G] }\n' }],
  [
    'a parameter of a part that may leave its limits',
    network(
      'l: { use: lag, parameters: { t: k }, inputs: { in: u } }',
      'y: l',
      'inputs: { u: { type: LREAL, unit: m } }\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 1, min: 0, max: 5 } }\n',
    ),
  ],
  [
    'a fixed parameter of a part that may be changed',
    {
      ...network(
        't: { use: Part, parameters: { area: k }, inputs: { u: u } }',
        'y: t.y',
        'inputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 1 } }\n',
      ),
      'components/part.yaml':
        'component: Part\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { area: { value: 1, tuning: fixed } }\nbehaviour: { kind: equations, outputs: { y: u * area } }\n',
    },
  ],
  ['a time whose second number has no unit', sentence('when guard.open rises, within 10 min 2, tank.level < 3')],
  ['a time from small to large', sentence('when guard.open rises, within 2 s 10 min tank.level < 3')],
  ['a value twice', { 'definitions.yaml': 'enumerations: { Mode: [Idle, Run, idle] }\n' }],
  ['an enumeration with the name of a function block', { 'definitions.yaml': 'enumerations: { TON: [Idle, Run] }\n' }],
  [
    'limits of an enumeration',
    { ...modes, ...equations('  outputs: { y: m }\n', 'inputs: { m: { type: Mode, max: 1 } }\noutputs: { y: { type: Mode } }\n') },
  ],
  [
    'a value of another enumeration',
    { ...modes, ...equations('  outputs: { y: m = Vent#Open }\n', 'inputs: { m: { type: Mode } }\noutputs: { y: { type: BOOL } }\n') },
  ],
  [
    'a value of an enumeration beside one of none',
    { ...modes, ...equations('  outputs: { y: m = n }\n', 'inputs: { m: { type: Mode }, n: { type: LREAL } }\noutputs: { y: { type: BOOL } }\n') },
  ],
  [
    'a number that no value has',
    { ...modes, ...equations('  outputs: { y: m = 7 }\n', 'inputs: { m: { type: Mode } }\noutputs: { y: { type: BOOL } }\n') },
  ],
  [
    'a value that several enumerations have',
    { ...modes, ...equations('  outputs: { y: i = Off }\n', 'inputs: { i: { type: INT } }\noutputs: { y: { type: BOOL } }\n') },
  ],
  ['a start value that is no value', { ...modes, ...equations('  outputs: { y: Run }\n', 'outputs: { y: { type: Mode, start: Runn } }\n') }],
  ['a definition with an unknown unit', { 'definitions.yaml': 'constants: { g: { value: 9.81, unit: blub } }\n' }],
  // Formulas
  ['an unknown name', formula('1 + b')],
  ['NOT before a comparison', equations('  let: { a: "SEL(NOT u = 1, 0.0, 1.0)" }\n', 'inputs: { u: { type: INT } }\n')],
  ['an unknown function', formula('SQT(4)')],
  ['too few operands', formula('ATAN2(1)')],
  ['an operator without its operand', formula('1 +')],
  ['two values in a row', formula('1 2')],
  ['an open parenthesis', formula('(1')],
  ['a stray character', formula('1 @ 2')],
  ['a comment that is not closed', formula('1 (* 2')],
  ['an odd time', formula('T#5x')],
  ['a name that ends in a dot', formula('a. + 1')],
  ['division by zero', formula('1 / 0')],
  ['AND of numbers', formula('SEL(1 AND TRUE, 1, 2)')],
  ['minus of a BOOL', formula('-TRUE')],
  ['an order of BOOLs', formula('SEL(TRUE < FALSE, 1, 2)')],
  ['MOD of fractions', formula('7.5 MOD x', 'parameters: { x: { value: 2 } }\n')],
  ['a TIME times a TIME', formula('SEL(T#1s * T#2s > T#1s, 1.0, 2.0)')],
  ['a TIME times a BOOL', formula('SEL(T#1s * TRUE > T#1s, 1.0, 2.0)')],
  ['types that do not go together', formula('SEL(u, 1.0, 2.0) + SEL(u = T#1s, 1, 2)', 'inputs: { u: { type: BOOL } }\n')],
  ['an operator that does not apply', formula('SEL(TRUE + FALSE, 1, 2)')],
  ['a number for a BOOL', formula('SEL(2, 1.0, 2.0)')],
  ['a BOOL for a number', formula('TRUE')],
  ['an operand of a conversion', formula('INT_TO_LREAL(1, 2)')],
  ['ABS of a BOOL', formula('ABS(TRUE)')],
  ['MIN of BOOLs', formula('SEL(MIN(TRUE, FALSE), 1, 2)')],
  ['MUX by a fraction', formula('MUX(1.5, 1, 2)')],
  ['ADD of one', formula('ADD(1)')],
  ['operands with names', formula('SQRT(x := 4)')],
  ['some operands with names', formula('ATAN2(x := 1, 2)')],
  ['an element of what is no array', formula('u[1]', number)],
  ['a random number in a continuous part', formula('DRAW_UNIFORM(0, 1)')],
  ['a typed number that is not available', formula('WORD#5')],
  ['a whole number that is none', routine('n := 1.5;', 'outputs: { n: { type: INT } }\n')],
  ['a number that does not fit', routine('n := 40000;', 'outputs: { n: { type: INT } }\n')],
  ['a number for a TIME', routine('n := 5;', 'outputs: { n: { type: TIME } }\n')],
  ['random numbers with one operand', routine('y := DRAW_UNIFORM(1);', out)],
  ['equality of fractions', routine('y := SEL(u = 0.3, 1.0, 2.0);', `${number}${out}`)],
  ['nesting without end in a formula', formula(`${'('.repeat(300)}1${')'.repeat(300)}`)],
  ['too many terms', formula(`1${' + 1'.repeat(20_001)}`)],
  // Equations
  ['a state without a derivative', equations('  states: { s: { start: 0 } }\n')],
  ['a derivative without a state', equations('  derivatives: { s: "1.0" }\n')],
  ['an output without a formula', equations('  let: {}\n', out)],
  ['a formula without an output', equations('  outputs: { y: "1.0" }\n')],
  ['an event that sets no state', equations('  events: [{ when: "TRUE", set: { q: "1.0" } }]\n')],
  ['a value that nobody uses', formula('1.0')],
  // Charts
  ['no period', { ...sound, 'components/guard.yaml': sound['components/guard.yaml']!.replace('period: 1 s, ', '') }],
  ['an odd period', { ...sound, 'components/guard.yaml': sound['components/guard.yaml']!.replace('period: 1 s', 'period: 0.5 ns') }],
  ['a period that is too short', { ...sound, 'components/guard.yaml': sound['components/guard.yaml']!.replace('period: 1 s', 'period: 0 s') }],
  ['an unknown initial state', component('  kind: chart\n  period: 1 s\n  regions: { r: { initial: B, states: { A: {} } } }\n')],
  ['a state twice', chart('A: { go: [{ to: a, when: "TRUE" }] }\na: {}')],
  ['an unknown target', chart('A: { go: [{ to: Bee, when: "TRUE" }] }')],
  [
    'a target across regions',
    component(
      '  kind: chart\n  period: 1 s\n  regions: { r: { initial: A, states: { A: { go: [{ to: q.Z, when: "TRUE" }] } } }, q: { initial: Z, states: { Z: {} } } }\n',
    ),
  ],
  ['a history of nothing', chart('A: { history: { H: { default: A } } }')],
  ['a duration that is none', chart('A: { go: [{ to: A, after: "TRUE" }] }')],
  ['a guard that is a number', chart('A: { go: [{ to: A, when: "1 + 1" }] }')],
  ['a message that nobody declared', chart('A: { go: [{ to: A, on: stop }] }')],
  ['a state that nothing leads to', chart('A: { go: [{ to: A, when: "TRUE" }] }\nB: { go: [{ to: A, when: "TRUE" }] }')],
  ['a state without a way out', chart('A: { go: [{ to: B, when: "TRUE" }] }\nB: {}')],
  [
    'the same cause twice',
    chart('A: { go: [{ to: A, when: "u" }, { to: B, when: "u" }] }\nB: { go: [{ to: A, when: "u" }] }', 'inputs: { u: { type: BOOL } }\n'),
  ],
  ['a variable that nobody uses', chart('A: { go: [{ to: A, when: "TRUE" }] }', '', '  variables: { n: { type: INT } }\n')],
  [
    'a variable that nobody writes',
    chart('A: { entry: "y := n;", go: [{ to: A, when: "TRUE" }] }', 'outputs: { y: { type: INT } }\n', '  variables: { n: { type: INT } }\n'),
  ],
  ['a variable that nobody reads', chart('A: { entry: "n := 1;", go: [{ to: A, when: "TRUE" }] }', '', '  variables: { n: { type: INT } }\n')],
  ['SEND of two names', chart('A: { entry: "SEND(a, b);" }', 'messages: { out: { a: , b: } }\n')],
  ['SEND with an unknown operand', chart('A: { entry: "SEND(a, SPEED := 1);" }', 'messages: { out: { a: } }\n')],
  ['SEND outside with a delay', chart('A: { entry: "SEND(a, DELAY := T#1s);" }', 'messages: { out: { a: } }\n')],
  // Routines
  ['ports in a routine', routine('VAR_INPUT u : REAL; END_VAR')],
  ['writing to an input', routine('u := 1.0;', number)],
  ['writing to nothing', routine('y := 1.0;')],
  ['a statement without :=', routine('y = 1.0;', out)],
  ['IF without END_IF', routine('IF TRUE THEN y := 1.0;', out)],
  ['a statement that begins oddly', routine('+ 1;')],
  ['a condition that is always the same', routine('IF TRUE THEN y := 1.0; END_IF;', out)],
  ['EXIT outside a loop', routine('EXIT;')],
  ['FOR with a fraction', routine('VAR x : LREAL; END_VAR FOR x := 1 TO 3 DO y := x; END_FOR;', out)],
  ['CASE by a fraction', routine('CASE 1.5 OF 1: y := 1.0; END_CASE;', out)],
  ['a label twice', routine('CASE n OF 1: y := 1.0; 1: y := 2.0; END_CASE;', `inputs: { n: { type: INT } }\n${out}`)],
  ['a label that changes', routine('CASE n OF n: y := 1.0; END_CASE;', `inputs: { n: { type: INT } }\n${out}`)],
  ['an array without an index', routine('VAR a : ARRAY[1..3] OF LREAL; END_VAR y := a;', out)],
  ['writing to an array as a whole', routine('VAR a : ARRAY[1..3] OF LREAL; END_VAR a := 1.0; y := a[1];', out)],
  ['an index of what is no array', routine('VAR a : LREAL; END_VAR a[1] := 1.0; y := a;', out)],
  ['an index too many', routine('VAR a : ARRAY[1..3] OF LREAL; END_VAR y := a[1, 2];', out)],
  ['an index that is a fraction', routine('VAR a : ARRAY[1..3] OF LREAL; END_VAR y := a[1.5];', out)],
  ['an array that is too long', routine('VAR a : ARRAY[1..3000000] OF LREAL; END_VAR y := a[1];', out)],
  ['many arrays that are too long', routine('VAR a : ARRAY[1..1000, 1..1000, 1..1000] OF LREAL; END_VAR y := a[1,1,1];', out)],
  ['an array without an upper bound', routine('VAR a : ARRAY[1..x] OF LREAL; END_VAR', out)],
  ['start values that do not fit', routine('VAR a : ARRAY[1..3] OF LREAL := [1.0, 2.0, 3.0, 4.0]; END_VAR y := a[1];', out)],
  ['a start value that changes', routine('VAR a : LREAL := u; END_VAR y := a;', `${number}${out}`)],
  ['an unknown type', routine('VAR a : FLOAT; END_VAR')],
  ['a name that is missing', routine('VAR : LREAL; END_VAR')],
  ['a name twice in a routine', routine('VAR a : LREAL; A : LREAL; END_VAR y := a;', out)],
  ['an unknown function block instance', routine('t(IN := TRUE);')],
  ['a function block without names', routine('VAR t : TON; END_VAR t(TRUE);')],
  ['an unknown input of a function block', routine('VAR t : TON; END_VAR t(START := TRUE);')],
  ['an array of function blocks', routine('VAR t : ARRAY[1..2] OF TON; END_VAR')],
  ['a message that is not sent', routine('SEND(full);', 'messages: { out: { empty: } }\n')],
  ['SEND in a routine with a delay', routine('SEND(full, DELAY := T#1s);', 'messages: { out: { full: } }\n')],
  // Structured Text
  ['a port of a function block', structuredText('FUNCTION_BLOCK C VAR_INPUT t : TON; END_VAR END_FUNCTION_BLOCK')],
  ['an odd pragma', structuredText('FUNCTION_BLOCK C {period: 1 s} VAR_INPUT u : REAL {unit 5}; END_VAR END_FUNCTION_BLOCK')],
  ['a function of the standard', structuredText('FUNCTION SQRT : REAL VAR_INPUT u : REAL; END_VAR SQRT := u; END_FUNCTION')],
  [
    'a function twice',
    structuredText(
      'FUNCTION F : REAL VAR_INPUT u : REAL; END_VAR F := u; END_FUNCTION FUNCTION f : REAL VAR_INPUT u : REAL; END_VAR f := u; END_FUNCTION',
    ),
  ],
  ['a function of a block', structuredText('FUNCTION F : TON VAR_INPUT u : REAL; END_VAR END_FUNCTION')],
  [
    'a function that calls itself',
    structuredText(
      'FUNCTION F : REAL VAR_INPUT u : REAL; END_VAR F := F(u); END_FUNCTION\nFUNCTION_BLOCK C {period: 1 s} VAR_OUTPUT y : REAL; END_VAR y := F(1.0); END_FUNCTION_BLOCK',
    ),
  ],
  [
    'a function with too many operands',
    structuredText(
      'FUNCTION F : REAL VAR_INPUT u : REAL; END_VAR F := u; END_FUNCTION\nFUNCTION_BLOCK C {period: 1 s} VAR_OUTPUT y : REAL; END_VAR y := F(1.0, 2.0); END_FUNCTION_BLOCK',
    ),
  ],
  [
    'a function with a wrong operand',
    structuredText(
      'FUNCTION F : REAL VAR_INPUT u : REAL; END_VAR F := u; END_FUNCTION\nFUNCTION_BLOCK C {period: 1 s} VAR_OUTPUT y : REAL; END_VAR y := F(v := 1.0); END_FUNCTION_BLOCK',
    ),
  ],
  ['a block that contains itself', structuredText('FUNCTION_BLOCK C {period: 1 s} VAR c : C; END_VAR END_FUNCTION_BLOCK')],
  ['words after the last block', structuredText('FUNCTION_BLOCK C {period: 1 s} END_FUNCTION_BLOCK and more')],
  // SCXML
  ['another root', { 'components/c.scxml': '<chart/>\n' }],
  ['a chart without states', scxml('')],
  ['an unknown target in SCXML', scxml('<state id="a"><transition target="b" cond="true"/></state>')],
  ['what SCXML has and charts here have not', scxml('<state id="a"><invoke type="x"/></state>')],
  ['an odd port', scxml('<datamodel><data id="u" expr="0" o:port="side"/></datamodel><state id="a"/>')],
  ['a parameter of SCXML without a value', scxml('<datamodel><data id="u" o:port="parameter" o:type="LREAL"/></datamodel><state id="a"/>')],
  ['an odd limit', scxml('<datamodel><data id="u" expr="0" o:port="input" o:min="low"/></datamodel><state id="a"/>')],
  ['an odd type', scxml('<datamodel><data id="u" expr="0" o:port="input" o:type="WORD"/></datamodel><state id="a"/>')],
  ['an expression that is not read', scxml('<state id="a"><transition target="a" cond="new Date()"/></state>')],
  // Networks
  ['an unknown element', network('g: { use: gian, inputs: { in: u } }')],
  ['an unknown setting', network('g: { use: gain, inputs: { in: u }, settings: { count: 2 } }')],
  ['a setting that does not go', network('g: { use: minimum, settings: { count: 1 }, inputs: { a: u } }')],
  ['an unknown input of an element', network('g: { use: gain, inputs: { input: u } }')],
  ['an input of an element that is not connected', network('g: { use: gain }')],
  ['an output of a network without a source', network('g: { use: gain, inputs: { in: u } }', 'z: g.out')],
  ['an output of a network from nowhere', network('g: { use: gain, inputs: { in: u } }', 'y: h.out')],
  ['an output of another type', network('g: { use: above, inputs: { a: u, b: 1 } }')],
  ['an input of another type', network('c: { use: above, inputs: { a: u, b: 1 } }\ng: { use: gain, inputs: { in: c.out } }')],
  ['a source that is not there', network('g: { use: gain, inputs: { in: v } }')],
  ['units along a wire', network('l: { use: Limit, inputs: { t: u } }\ng: { use: gain, inputs: { in: l.y } }', 'y: g.out')],
  ['a network in itself', network('g: { use: C, inputs: { u: u } }', 'y: g.y')],
  ['an unknown parameter of a part', network('g: { use: gain, inputs: { in: u }, parameters: { q: 1 } }')],
  // Decision tables
  ['an unknown condition', table('hot: hot', '- { when: { cold: TRUE }, then: { y: TRUE } }')],
  ['an odd cell', table('t: t', '- { when: { t: warm }, then: { y: TRUE } }')],
  ['an action on nothing', table('hot: hot', '- { when: { hot: TRUE }, then: { z: TRUE } }')],
  ['a gap', table('hot: hot', '- { when: { hot: TRUE }, then: { y: TRUE } }')],
  ['an overlap', table('t: t', '- { when: { t: "< 20" }, then: { y: TRUE } }\n- { when: { t: "> 10" }, then: { y: FALSE } }')],
  [
    'too many combinations',
    table(
      Array.from({ length: 12 }, (_, i) => `c${i}: t`).join(', '),
      Array.from(
        { length: 12 },
        (_, i) => `- { when: { ${Array.from({ length: 12 }, (_, k) => `c${k}: "< ${i}"`).join(', ')} }, then: { y: TRUE } }`,
      ).join('\n'),
      '  otherwise: { y: FALSE }\n',
    ),
  ],
  // Recordings
  ['a pairing with no such loop', paired(['host: pond', 'host: pont'])],
  ['a pairing of a loop without a controller', paired(['controller: l', 'controller: bare'])],
  [
    'a pairing that leaves an input open',
    paired([
      'controller: l\nhost: pond\ninputs: { law.level: pond.depth }\noutputs: { law.valve: pond.gate }',
      'controller: pond\nhost: bare\noutputs: { law.valve: gate }',
    ]),
  ],
  ['a pairing with no such input', paired(['law.level:', 'law.levl:'])],
  ['a pairing with no such output', paired(['law.valve:', 'law.vale:'])],
  ['a pairing with no such signal', paired(['pond.depth', 'pond.deth'])],
  ['a pairing with no such end', paired(['pond.gate', 'pond.gat'])],
  ['a pairing in another unit', paired(['pond.depth', 'pond.area'])],
  ['a pairing that leaves an end of the host open', paired(['outputs: { law.valve: pond.gate }', 'outputs: {}'])],
  ['a pairing that leaves an output out', paired(['unused: [law.lamp]\n', ''])],
  ['a pairing with an unused output that is none', paired(['[law.lamp]', '[law.lamp, law.light]'])],
  ['a pairing that replaces what is not there', paired(['host: pond', 'host: pond\nreplaces: [lw]'])],
  ['a pairing with two components of one name', paired(['host: pond', 'host: pond\nreplaces: []'])],
  ['a pairing by the name of a loop', paired(['pairing: p', 'pairing: bare'])],
  [
    'a pairing with another build',
    paired(['', ''], {
      'parameters/slow.yaml': 'parameter_set: slow\nvalues: { law.gain: 1 }\n',
      'loops/pond.yaml':
        'loop: pond\ncomponents: { law: { use: Law }, pond: { use: Pond } }\ninputs: { on: { to: law.on } }\nwires: [{ from: pond.depth, to: law.level }, { from: law.valve, to: pond.gate }]\nparameter_sets: [slow]\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
    }),
  ],
  ['a unit that is not there', unit(['units/tank.fmu', 'units/tnk.fmu'])],
  ['a unit that is no archive', unit(undefined, { archive: 'AAAA' })],
  ['a unit without a description', unit(undefined, { archive: archiveOf({ 'readme.txt': 'nothing' }) })],
  ['a unit whose description is broken', unit(undefined, { description: ['</ModelVariables>', ''] })],
  ['a unit of an older version', unit(undefined, { description: ['fmiVersion="2.0"', 'fmiVersion="1.0"'] })],
  ['a unit without a solver', unit(undefined, { description: ['<CoSimulation ', '<ModelExchange '] })],
  ['a unit that needs its program', unit(undefined, { description: ['<CoSimulation ', '<CoSimulation needsExecutionTool="true" '] })],
  ['a unit without a token', unit(undefined, { description: ['guid="{tank-by-hand}"', ''] })],
  ['a unit for other computers', unit(undefined, { description: ['modelIdentifier="hand_tank"', 'modelIdentifier="tank"'] })],
  ['a variable that the unit has not', unit(['tank.level', 'tank.levl'])],
  ['a variable of a unit in the wrong place', unit(['area: tank.area', 'area: pump.inflow'])],
  ['an input of a unit among the outputs', unit(['level: tank.level', 'level: open'])],
  ['a text of a unit', unit(['area: tank.area', 'area: note'])],
  ['a variable of a unit with another type', unit(['open: { type: BOOL }', 'open: { type: INT }'])],
  ['a variable of a unit in another unit', unit(['unit: m }', 'unit: mm }'])],
  ['a name that leads nowhere', unit(['level: tank.level', 'level: tank.level, depth: tank.level'])],
  [
    'a unit that is held',
    {
      ...unit(),
      'loops/l.yaml':
        'loop: l\ncomponents: { tank: { use: C, enabled: on } }\ninputs: { inflow: { to: tank.inflow }, on: { to: tank.open } }\nsolver: { method: euler, step: 50 ms }\nstop: 1 s\n',
    },
  ],
  ['a recording that is not there', recording('y: level')],
  ['a recording that cannot be read', recording('y: level', 'time,level\n0,1\n')],
  ['a column that is not there', recording('y: level', 'time[s],depth[m]\n0,1\n1,2\n')],
  ['a column in another unit', recording('y: level', 'time[s],level[s]\n0,1\n1,2\n')],
  ['a column of another type', recording('y: level', 'time[s],level[m]\n0,TRUE\n1,FALSE\n')],
  ['a column of names', recording('y: level', 'time[s],level\n0,Low\n1,High\n')],
  [
    'a column with a name that is no value',
    {
      ...modes,
      ...component('  kind: recording\n  file: recordings/a.csv\n', 'outputs: { y: { type: Mode } }\n'),
      'recordings/a.csv': 'time[s],y\n0,Run\n1,Runn\n',
    },
  ],
  [
    'a column with fractions for a whole number',
    {
      ...component('  kind: recording\n  file: recordings/a.csv\n', 'outputs: { y: { type: INT } }\n'),
      'recordings/a.csv': 'time[s],y\n0,1\n1,1.5\n',
    },
  ],
  // Loops
  ['an unknown component', but('loops/l.yaml', 'use: Tank', 'use: Tnak')],
  ['a name twice in a loop', but('loops/l.yaml', '  guard: { use: Guard }\n', '  guard: { use: Guard }\n  Guard: { use: Guard }\n')],
  ['an unknown parameter of a component', but('loops/l.yaml', 'use: Tank', 'use: Tank, parameters: { q: 1 }')],
  ['an unknown port', but('loops/l.yaml', 'to: tank.valve', 'to: tank.value')],
  ['an input with two sources', but('loops/l.yaml', 'wires:\n', 'wires:\n  - { from: tank.level, to: guard.level }\n')],
  ['an input that is not connected', but('loops/l.yaml', '  - { from: tank.level, to: guard.level }', '  []')],
  ['a wire between types', but('loops/l.yaml', '{ from: tank.level, to: guard.level }', '{ from: guard.open, to: guard.level }')],
  ['a wire between units', but('loops/l.yaml', '  valve: { to: tank.valve }', '  valve: { to: [tank.valve, guard.level] }')],
  ['enabled by a number', but('loops/l.yaml', 'use: Guard', 'use: Guard, enabled: tank.level')],
  ['enabled, but continuous', but('loops/l.yaml', 'use: Tank', 'use: Tank, enabled: guard.open')],
  ['a set that is not there', but('loops/l.yaml', 'stop: 10 s', 'stop: 10 s\nparameter_sets: [Summer]')],
  [
    'a set with another parameter',
    but('loops/l.yaml', 'stop: 10 s', 'stop: 10 s\nparameter_sets: [Summer]', {
      'parameters/s.yaml': 'parameter_set: Summer\nvalues: { tank.depth: 1 }\n',
    }),
  ],
  ['no step', but('loops/l.yaml', ', step: 10 ms', '')],
  ['a step that does not divide', but('loops/l.yaml', 'step: 10 ms', 'step: 300 ms')],
  ['trust in an unknown signal', but('loops/l.yaml', 'stop: 10 s', 'stop: 10 s\ntrusted: [{ signal: tank.depth, from: 0, until: 1, because: x }]')],
  ['trust in an empty span', but('loops/l.yaml', 'stop: 10 s', 'stop: 10 s\ntrusted: [{ signal: tank.level, from: 1, until: 0, because: x }]')],
  [
    'a ring within one instant',
    {
      ...equations('  outputs: { y: u }\n', `${number}${out}`),
      'loops/l.yaml':
        'loop: l\ncomponents: { a: { use: C }, b: { use: C } }\nwires: [{ from: a.y, to: b.u }, { from: b.y, to: a.u }]\nsolver: { method: euler, step: 1 s }\nstop: 1 s\n',
    },
  ],
  [
    'a ring within one hit',
    {
      ...chart('A: { stay: "y := u;" }', `${number}${out}`),
      'loops/l.yaml':
        'loop: l\ncomponents: { a: { use: C }, b: { use: C } }\nwires: [{ from: a.y, to: b.u }, { from: b.y, to: a.u }]\nsolver: { method: euler, step: 1 s }\nstop: 1 s\n',
    },
  ],
  // Cases
  ['an unknown loop', but('cases/c.yaml', 'loop: l', 'loop: m')],
  ['an unknown variant', but('cases/c.yaml', 'loop: l', 'loop: l\nvariant: fast')],
  ['an unknown input of a case', but('cases/c.yaml', 'valve: [', 'vavle: [')],
  ['an unknown parameter of a case', but('cases/c.yaml', 'loop: l', 'loop: l\nparameters: { tank.depth: 1 }')],
  ['a parameter that is fixed', but('cases/c.yaml', 'loop: l', 'loop: l\nparameters: { tank.area: 3 }')],
  ['a set that a case does not find', but('cases/c.yaml', 'loop: l', 'loop: l\nparameter_sets: [Summer]')],
  ['stimuli out of order', but('cases/c.yaml', '[{ hold: 1 }]', '[{ step: 1, at: 2 s }, { step: 2, at: 1 s }]')],
  ['hold that comes late', but('cases/c.yaml', '[{ hold: 1 }]', '[{ step: 1, at: 1 s }, { hold: 2 }]')],
  ['a ramp that ends before it begins', but('cases/c.yaml', '[{ hold: 1 }]', '[{ ramp: 1, from: 2 s, until: 1 s }]')],
  ['a case that is like none', but('cases/c.yaml', 'loop: l', 'like: d')],
  ['a case that is like itself', but('cases/c.yaml', 'loop: l', 'like: c')],
  [
    'a campaign twice',
    {
      ...sound,
      'campaigns/a.yaml': 'campaign: A\nvary: { tank.area: { list: [1] } }\n',
      'campaigns/b.yaml': 'campaign: a\nvary: { tank.area: { list: [1] } }\n',
    },
  ],
  ...(
    [
      ['of an unknown case', 'cases: Nobody\nvary: { tank.area: { list: [1] } }'],
      ['of an unknown tag', 'cases: { tags: [slow] }\nvary: { tank.area: { list: [1] } }'],
      ['meant for what no case is', 'cases: { meant_for: [R1] }\nvary: { tank.area: { list: [1] } }'],
      ['that varies what is not there', 'vary: { tank.depth: { list: [1] } }'],
      ['of an unknown variant', 'vary: { variant: { list: [fast] } }'],
      ['of variants that scatter', 'vary: { variant: { uniform: [1, 2] } }'],
      ['of an unknown design', 'design: spiral\nvary: { tank.area: { list: [1] } }'],
      ['of a design that does not fit', 'design: grid\nvary: { tank.area: { uniform: [1, 2] } }'],
      ['with bounds crossed', 'vary: { tank.area: { uniform: [2, 1] } }'],
      ['with a mode outside', 'vary: { tank.area: { triangular: { low: 1, mode: 9, high: 2 } } }'],
      ['with ratios from zero', 'vary: { tank.area: { from: 0, until: 2, steps: 3, logarithmic: true } }'],
      ['with a claim about nothing', 'vary: { tank.area: { uniform: [1, 2] } }\nstop: { claim: R9, at_most: 1 % }'],
      ['with a claim over a grid', 'vary: { tank.area: { list: [1, 2] } }\nstop: { claim: R1, at_most: 1 % }'],
      ['with no share', 'vary: { tank.area: { uniform: [1, 2] } }\nstop: { claim: R1, at_most: much }'],
      ['with a parameter set that is not there', 'vary: { parameter_set: { list: [winter] } }'],
      ['with a setting no solver has', 'vary: { solver.pace: { list: [1] } }'],
      ['with a step that scatters', 'vary: { solver.step: { uniform: [1, 2] } }'],
      ['with too few weights', 'design: random\nvary: { tank.h: { list: [1, 2], weights: [1] } }'],
      ['with weights of 0', 'design: random\nvary: { tank.h: { list: [1, 2], weights: [0, 0] } }'],
      ['that no run keeps to', 'vary: { tank.h: { list: [1, 2] } }\nconstraints: [tank.h > 5]'],
      ['that goes with what does not vary', 'vary: { tank.h: { uniform: [1, 2] } }\ncorrelated: [{ between: [tank.h, tank.area], by: 0.5 }]'],
      ['that goes with itself', 'vary: { tank.h: { uniform: [1, 2] } }\ncorrelated: [{ between: [tank.h, tank.h], by: 0.5 }]'],
      [
        'that goes together too well',
        'vary: { tank.h: { uniform: [1, 2] }, valve.hold: { uniform: [1, 2] } }\ncorrelated: [{ between: [tank.h, valve.hold], by: 1 }]',
      ],
      ['that measures nothing', 'vary: { tank.area: { list: [1, 2] } }\nmeasures: { top: peak of nothing }'],
    ] as const
  ).map(([what, text]): readonly [string, Documents] => [`a campaign ${what}`, { ...sound, 'campaigns/a.yaml': `campaign: A\n${text}\n` }]),
  ...(
    [
      ['on no wire', 'on: tank.level, lost: true'],
      ['that is late by half a hit', 'on: guard.level, delayed: 1500 ms'],
      ['that is too late', 'on: guard.level, delayed: 9 h'],
      ['of noise between continuous parts', 'on: tank.valve, noise: 1'],
      ['of what is no number', 'on: guard.level, stuck: TRUE'],
    ] as const
  ).map(([what, fault]): readonly [string, Documents] => [
    `a fault ${what}`,
    but('cases/c.yaml', 'loop: l', `loop: l\nscript: [{ fault: { ${fault} } }]`),
  ]),
  ['a step of the solver that does not go with the loop', but('cases/c.yaml', 'loop: l', 'loop: l\nsolver: { step: 3 ms }')],
  ['a change of what is built in', but('cases/c.yaml', 'loop: l', 'loop: l\nscript: [{ change: { tank.area: 2 } }]')],
  ['a case with two ends', but('cases/c.yaml', 'loop: l', 'loop: l\nstop: 2 s\nend: { when: valve > 2, at_most: 3 s }')],
  ['pulses without a period', but('cases/c.yaml', '[{ hold: 1 }]', '[{ pulse: 1, at: 2 s, width: 1 s, count: 3 }]')],
  ['pulses into each other', but('cases/c.yaml', '[{ hold: 1 }]', '[{ pulse: 1, at: 2 s, width: 1 s, period: 500 ms, count: 3 }]')],
  ['bounds of a walk crossed', but('cases/c.yaml', '[{ hold: 1 }]', '[{ walk: 1, from: 2 s, until: 3 s, every: 100 ms, within: [1, 0] }]')],
  ['a walk of too many steps', but('cases/c.yaml', '[{ hold: 1 }]', '[{ walk: 1, from: 0 s, until: 9 s, every: 1 us, within: [0, 1] }]')],
  [
    'a ramp of a BOOL',
    {
      ...but('cases/c.yaml', 'valve: [{ hold: 1 }]', 'go: [{ ramp: 1, from: 1 s, until: 2 s }]'),
      'components/gate.yaml': `component: Gate\n${bool}behaviour: { kind: routine, period: 1 s, body: "y := u;" }\n`,
      'loops/l.yaml': sound['loops/l.yaml']!.replace('inputs:\n', 'inputs:\n  go: { to: gate.u }\n').replace(
        '  tank:',
        '  gate: { use: Gate }\n  tank:',
      ),
    },
  ],
  ['meant for nobody', but('cases/c.yaml', 'loop: l', 'loop: l\nmeant_for: [R7]')],
  // Desks and scenes
  ['an unknown signal of a desk', desk('{ signal: tank.depth, as: figure }')],
  ['a display that does not fit', desk('{ signal: guard.open, as: dial }')],
  ['an x-y display of one signal', desk('{ signal: tank.level, as: x-y }')],
  ['an empty range', desk('{ signal: tank.level, as: bar, min: 3, max: 1 }')],
  ['a movement without limits', scene('{ part: bar, by: valve, set: y, to: [0, 1] }')],
  // Requirements and sentences
  ['a requirement twice', but('requirements/r.yaml', '  - requirement: R1\n', '  - { requirement: r1, text: x }\n  - requirement: R1\n')],
  ['a criterion twice', but('requirements/r.yaml', '      - {', '      - { criterion: Low, sentence: "never tank.level > 5 m" }\n      - {')],
  ['an unknown signal of a sentence', sentence('always tank.depth <= 5 m')],
  [
    'signals of two loops',
    {
      ...sentence('always tank.level <= 5 m AND silo.full'),
      'components/silo.yaml':
        'component: Silo\noutputs: { full: { type: BOOL } }\nbehaviour: { kind: routine, period: 1 s, body: "full := TRUE;" }\n',
      'loops/m.yaml': 'loop: m\ncomponents: { silo: { use: Silo } }\nsolver: { method: euler, step: 1 s }\nstop: 1 s\n',
    },
  ],
  [
    'a name that could mean two things',
    {
      ...but('loops/l.yaml', '  tank: { use: Tank }\n', '  tank: { use: Tank }\n  spare: { use: Tank }\n'),
      ...{
        'requirements/r.yaml': sound['requirements/r.yaml']!.replace('tank.level', 'level'),
        'loops/l.yaml': sound['loops/l.yaml']!.replace('  tank: { use: Tank }\n', '  tank: { use: Tank }\n  spare: { use: Tank }\n').replace(
          'to: tank.valve',
          'to: [tank.valve, spare.valve]',
        ),
      },
    },
  ],
  ['units that do not fit', sentence('always tank.level <= 5 s')],
  ['an unknown unit', sentence('always tank.level <= 5 blub')],
  ['no sentence', sentence('tank.level <= 5 m')],
  ['words behind a sentence', sentence('always tank.level <= 5 m or so')],
  ['a sequence of one', sentence('sequence guard.open rises')],
  ['a crossing without a direction', sentence('when tank.level crosses 3 m, guard.open')],
  ['an event that is not complete', sentence('when guard.open, tank.level > 1 m')],
  ['a window that ends early', sentence('when guard.open rises, between 5 s and 2 s tank.level > 1 m')],
  ['a time that is missing', sentence('when guard.open rises, within tank.level > 1 m')],
  ['a time of parts of nanoseconds', sentence('when guard.open rises, within 0.5 ns tank.level > 1 m')],
  ['a measure without a limit', sentence('peak of tank.level')],
  ['a measure without a limit in a window', sentence('count of guard.open rises in any 5 s')],
  ['overshoot in metres', sentence('overshoot of tank.level to valve <= 3 m')],
  ['overshoot of a formula', sentence('overshoot of tank.level to tank.level + 1 m <= 5 %')],
  ['a limit that changes', sentence('peak of tank.level <= tank.level')],
  ['a duration in metres', sentence('duration of guard.open <= 3 m')],
  ['a count in metres', sentence('count of guard.open rises <= 3 m')],
  ['a change of a real number', sentence('when tank.level changes, within 1 s guard.open')],
  ['a rate of a sum', sentence('always rate of (tank.level + tank.level) <= 2 m/s')],
  ['a range without a bracket', sentence('always tank.level in 0 m, 3 m')],
];
