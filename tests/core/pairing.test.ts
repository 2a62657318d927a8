import { describe, expect, it } from 'vitest';
import { type CheckedProject, orderRun, pairingDocument, pairingOf, pairingViews, performRun, plannedBuild, proposePairs } from '@/core/project';
import { projectOf } from '../support/project';

const law = `component: Law
inputs: { level: { type: LREAL, unit: m }, far: { type: LREAL, unit: m }, on: { type: BOOL } }
outputs: { opening: { type: LREAL, unit: "%" }, warm: { type: BOOL } }
parameters: { gain: { value: 20 } }
behaviour: { kind: routine, period: 100 ms, body: "opening := SEL(on, 0.0, LIMIT(0.0, gain * (2.0 + 0.1 * far - level), 100.0)); warm := level > 1.0;" }
`;
const guard = `component: Guard
inputs: { warm: { type: BOOL } }
outputs: { lamp: { type: BOOL } }
behaviour: { kind: chart, period: 200 ms, regions: { r: { initial: Off, states: { Off: { entry: "lamp := FALSE;", go: [{ to: On, when: warm }] }, On: { entry: "lamp := TRUE;", go: [{ to: Off, when: NOT warm }] } } } } }
`;
const basin = (
  name: string,
  ports: { readonly drive: string; readonly out: string; readonly other: string },
  area: number,
): string => `component: ${name}
inputs: { ${ports.drive}: { type: LREAL, unit: "%" } }
outputs: { ${ports.out}: { type: LREAL, unit: m }, ${ports.other}: { type: LREAL, unit: m } }
behaviour: { kind: equations, states: { h: { start: 0 } }, derivatives: { h: "(${ports.drive} / 100.0 - 0.1 * h) / ${area}.0" }, outputs: { ${ports.out}: h, ${ports.other}: "h / 2.0" } }
`;
const documents = {
  'components/law.yaml': law,
  'components/guard.yaml': guard,
  'components/tank.yaml': basin('Tank', { drive: 'opening', out: 'level', other: 'far' }, 2),
  'components/pond.yaml': basin('Pond', { drive: 'gate_opening', out: 'water_level', other: 'far' }, 5),
  'components/hand.yaml':
    'component: Hand\noutputs: { y: { type: LREAL, unit: "%" } }\nbehaviour: { kind: routine, period: 1 s, body: "y := 5.0;" }\n',
  'loops/tank.yaml': `loop: tank
components: { law: { use: Law, parameters: { gain: 30 } }, guard: { use: Guard }, tank: { use: Tank } }
inputs: { on: { to: law.on, start: TRUE } }
wires: [{ from: tank.level, to: law.level }, { from: tank.far, to: law.far }, { from: law.opening, to: tank.opening }, { from: law.warm, to: guard.warm }]
unused: [guard.lamp]
solver: { method: runge-kutta-4, step: 10 ms }
stop: 20 s
`,
  'loops/pond.yaml': `loop: pond
components: { hand: { use: Hand }, pond: { use: Pond } }
wires: [{ from: hand.y, to: pond.gate_opening }]
solver: { method: heun, step: 20 ms }
stop: 30 s
`,
};
const sheet = `pairing: pond_run
controller: tank
host: pond
inputs: { law.level: pond.water_level, law.far: pond.far }
outputs: { law.opening: pond.gate_opening }
unused: [guard.lamp]
`;
const withSheet = (text: string, more: Readonly<Record<string, string>> = {}): CheckedProject =>
  projectOf({ ...documents, 'pairings/p.yaml': text, 'cases/c.yaml': 'case: c\nloop: pond_run\n', ...more });
const told = ({ faults, warnings }: CheckedProject): string[] =>
  [...faults, ...warnings].map(({ place, message, fix }) => `${place.file}:${place.line}:${place.column} ${message} ${fix}`);

describe('a controller in another loop, by a sheet of pairs', () => {
  it('is the very build of its own loop, and does what the same loop written out does', () => {
    const project = withSheet(sheet, {
      'loops/written.yaml': `loop: written
components: { law: { use: Law, parameters: { gain: 30 } }, guard: { use: Guard }, pond: { use: Pond } }
inputs: { on: { to: law.on, start: TRUE } }
wires: [{ from: pond.water_level, to: law.level }, { from: pond.far, to: law.far }, { from: law.opening, to: pond.gate_opening }, { from: law.warm, to: guard.warm }]
unused: [guard.lamp]
solver: { method: heun, step: 20 ms }
stop: 30 s
`,
      'cases/d.yaml': 'case: d\nloop: written\n',
    });
    expect(told(project)).toEqual([]);
    const [paired, written] = ['c', 'd'].map(
      (name) => performRun(orderRun(project, project.cases.find((one) => one.experiment.case === name)!)).trace,
    );
    const columns = (trace = paired!) => new Map(trace.columns.map(({ name, data }) => [name, [...data]]));
    expect(columns(paired)).toEqual(columns(written));
    expect(Math.max(...columns().get('pond.water_level')!)).toBeGreaterThan(1);
    const [own, there] = ['tank', 'pond_run'].map((loop) => plannedBuild(project, loop));
    expect(own).toMatchObject({ components: ['law', 'guard'] });
    expect('because' in own! || 'because' in there! || own!.fingerprint === there!.fingerprint).toBe(true);
    expect(pairingViews(project)).toMatchObject([{ isSameBuild: true, raw: { pairing: 'pond_run' } }]);
  });

  it('is proposed by name and unit, and the sheet that comes of it fits', () => {
    const { project } = projectOf(documents);
    const { rows, orphans } = proposePairs(project, project.loops.get('tank')!, project.loops.get('pond')!);
    expect(orphans).toEqual(['pond.gate_opening']);
    expect(rows.map(({ name, pairedWith, because }) => [name, pairedWith.join(), because])).toEqual([
      ['law.level', 'pond.water_level', 'like name, same unit'],
      ['law.far', 'pond.far', 'same name and unit'],
      ['law.on', '', 'stays a free input, on'],
      ['law.opening', 'pond.gate_opening', 'like name, same unit'],
      ['law.warm', '', 'nothing in the host has its type and unit'],
      ['guard.lamp', '', 'nothing in the host has its type and unit'],
    ]);
    const { text } = pairingDocument(pairingOf({ pairing: 'pond_run', controller: 'tank', host: 'pond' }, rows));
    expect(told(withSheet(text))).toEqual([]);
  });

  it.each([
    ['a loop that is not there', ['host: pond', 'host: pnd'], 'pairings/p.yaml:3:7 There is no loop "pnd". Did you mean "pond"?'],
    ['a controller that has none', ['controller: tank', 'controller: bare'], 'The loop bare has no controller that could be taken.'],
    ['an input with no pair', [', law.far: pond.far', ''], 'pairings/p.yaml:4:9 The input law.far of the controller is paired with nothing.'],
    ['an input that is none', ['law.far:', 'law.fa:'], 'The controller has no input "law.fa" that could be paired. Did you mean "law.far"?'],
    [
      'a signal that is none',
      ['pond.water_level', 'pond.waterlevel'],
      'pairings/p.yaml:4:22 The host has no signal "pond.waterlevel". Did you mean "pond.water_level"?',
    ],
    ['a signal in another unit', ['pond.water_level', 'pond.far2'], 'pairings/p.yaml:4:22 The host has no signal'],
    ['an end that is none', ['pond.gate_opening', 'pond.gate'], 'The host has no input "pond.gate" that could be paired.'],
    [
      'an output with no pair',
      ['unused: [guard.lamp]\n', ''],
      'pairings/p.yaml:5:10 The output guard.lamp of the controller drives nothing in pond. Pair it, or list it under unused.',
    ],
    [
      'an end that nothing drives now',
      ['outputs: { law.opening: pond.gate_opening }\n', ''],
      'The input pond.gate_opening of the host was driven by what makes room, and is driven by nothing now.',
    ],
    [
      'a part that makes room and is not there',
      ['host: pond', 'host: pond\nreplaces: [hnd]'],
      'pairings/p.yaml:4:12 The loop pond has no component "hnd". Did you mean "hand"?',
    ],
    [
      'an end that is driven twice',
      ['host: pond', 'host: pond\nreplaces: []'],
      'pairings/p.yaml:6:25 The input pond.gate_opening already has a source. Remove one of the two wires.',
    ],
  ] as const)('tells %s', (_, [from, to], message) => {
    expect(sheet).toContain(from);
    const project = withSheet(sheet.replace(from, to), {
      'loops/bare.yaml':
        'loop: bare\ncomponents: { pond: { use: Pond } }\ninputs: { gate: { to: pond.gate_opening } }\nsolver: { method: heun, step: 20 ms }\nstop: 1 s\n',
    });
    expect(told(project).join('\n')).toContain(message);
    // Whoever names the loop that does not come of it is not told of that again.
    expect(told(project).join('\n')).not.toContain('no loop "pond_run"');
  });

  it('checks types and units where the sheet pairs them', () => {
    const wrong = withSheet(
      sheet
        .replace('law.far: pond.far', 'law.far: hand.y')
        .replace('host: pond', 'host: pond\nreplaces: []')
        .replace('outputs: { law.opening: pond.gate_opening }\n', ''),
    );
    expect(told(wrong).join('\n')).toContain('pairings/p.yaml:5:49 hand.y is in %, but law.far expects m.');
  });

  it('says when it is another build there: a parameter set of the host changes it', () => {
    const project = withSheet(sheet, {
      'loops/pond.yaml': `loop: pond
components: { law: { use: Law }, pond: { use: Pond } }
inputs: { on: { to: law.on } }
wires: [{ from: pond.water_level, to: law.level }, { from: pond.far, to: law.far }, { from: law.opening, to: pond.gate_opening }]
parameter_sets: [slow]
solver: { method: heun, step: 20 ms }
stop: 30 s
`,
      'parameters/slow.yaml': 'parameter_set: slow\nvalues: { law.gain: 10 }\n',
    });
    expect(told(project).join('\n')).toContain('The controller here is another build than in tank: they part in law.gain.');
  });

  it('goes with messages like with signals; saved from its rows it keeps their pairs', () => {
    const told = 'messages: { in: { reset: null }, out: { full: null } }\n';
    const talking = {
      'components/law.yaml': `${law.replace('behaviour: { kind: routine, period: 100 ms, body: "', 'behaviour: { kind: routine, period: 100 ms, body: "IF reset THEN SEND(full); END_IF; ')}${told}`,
      'components/panel.yaml':
        'component: Panel\nmessages: { in: { lamp: null }, out: { press: null } }\noutputs: { count: { type: INT } }\nbehaviour: { kind: routine, period: 100 ms, body: "IF lamp THEN count := count + 1; END_IF; IF task_time = T#1s THEN SEND(press); END_IF;" }\n',
      'loops/pond.yaml': documents['loops/pond.yaml'].replace('pond: { use: Pond }', 'pond: { use: Pond }, panel: { use: Panel }'),
    };
    const text = sheet
      .replace('host: pond\n', 'host: pond\nreplaces: [hand]\n')
      .replace('law.far: pond.far', 'law.far: pond.far, law.reset: panel.press')
      .replace('pond.gate_opening }', 'pond.gate_opening, law.full: panel.lamp }');
    const project = withSheet(text, talking);
    // A message that leaves the controller makes another build of it; that is said.
    expect(project.faults).toEqual([]);
    const { trace } = performRun(orderRun(project, project.cases[0]!));
    expect(Math.max(...trace.columns.find(({ name }) => name === 'panel.count')!.data)).toBe(1);
    const [view] = pairingViews(project);
    const saved = pairingOf({ pairing: 'pond_run', controller: 'tank', host: 'pond', replaces: ['hand'] }, view!.rows, view!.raw);
    expect(saved.inputs).toEqual(view!.raw.inputs);
    expect(saved.outputs).toEqual(view!.raw.outputs);
  });

  it('a free input of the host is paired, or driven; of one name in both it is one', () => {
    const project = withSheet(
      `pairing: pond_run
controller: tank
host: bare
inputs: { law.level: pond.water_level, law.far: rain }
outputs: { law.opening: gate }
unused: [guard.lamp]
`,
      {
        'components/meadow.yaml':
          'component: Meadow\ninputs: { rain: { type: LREAL, unit: m }, on: { type: BOOL } }\noutputs: { wet: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { wet: "rain + SEL(on, 0.0, 1.0)" } }\n',
        'loops/bare.yaml':
          'loop: bare\ncomponents: { pond: { use: Pond }, meadow: { use: Meadow } }\ninputs: { gate: { to: pond.gate_opening }, rain: { to: meadow.rain, start: 0.5 }, on: { to: meadow.on, start: TRUE } }\nsolver: { method: heun, step: 20 ms }\nstop: 1 s\n',
      },
    );
    expect(told(project)).toEqual([]);
    expect(project.project.loops.get('pond_run')?.raw.inputs).toEqual({
      rain: { to: ['meadow.rain', 'law.far'], start: 0.5 },
      on: { to: ['meadow.on', 'law.on'], start: true },
    });
  });
});
