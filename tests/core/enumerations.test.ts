import { describe, expect, it } from 'vitest';
import { emitCUnit } from '@/core/emit/c';
import { emitScxml } from '@/core/emit/scxml';
import { Faults } from '@/core/fault';
import { readCsvTrace, writeCsvTrace } from '@/core/formats';
import { aloneLoop, assembleLoop } from '@/core/loop';
import { componentAsStructuredText, judgeRecording } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';

const definitions = 'enumerations: { Mode: [Off, Night, Day], Vent: [Closed, Off, Open] }\n';
const chart = `component: Climate
inputs: { wanted: { type: Mode }, air: { type: LREAL, unit: "°C" } }
outputs: { mode: { type: Mode, start: Night }, vent: { type: Vent } }
parameters: { first: { type: Mode, value: Day } }
behaviour:
  kind: chart
  period: 100 ms
  variables: { last: { type: Mode, start: Off } }
  regions:
    climate:
      initial: Waiting
      states:
        Waiting:
          entry: "mode := first; vent := Off;"
          go: [{ to: Going, when: wanted <> Off AND last = Off }]
        Going:
          stay: "IF wanted = Day AND air > 20.0 THEN vent := Open; ELSE vent := Closed; END_IF; mode := wanted;"
          go: [{ to: Waiting, when: Off = wanted }]
`;
const table = `component: Table
inputs: { mode: { type: Mode } }
outputs: { lamp: { type: BOOL }, next: { type: Vent } }
behaviour:
  kind: decision table
  period: 100 ms
  conditions: { now: mode }
  rules:
    - { when: { now: Off }, then: { lamp: FALSE, next: Off } }
    - { when: { now: Night }, then: { lamp: TRUE, next: Closed } }
    - { when: { now: Day }, then: { lamp: FALSE, next: Open } }
`;
const loop = `loop: l
components: { climate: { use: Climate, parameters: { first: Night } }, table: { use: Table } }
inputs: { wanted: { to: climate.wanted, start: Off }, air: { to: climate.air, start: 25 } }
wires: [{ from: climate.mode, to: table.mode }]
solver: { method: euler, step: 100 ms }
stop: 4 s
`;
const documents = {
  'definitions.yaml': definitions,
  'components/climate.yaml': chart,
  'components/table.yaml': table,
  'loops/l.yaml': loop,
  'cases/c.yaml': 'case: c\nloop: l\nstimuli: { wanted: [{ step: Day, at: 1 s }, { step: Mode#Night, at: 2 s }, { step: Off, at: 3 s }] }\n',
  'requirements/r.yaml': `section: S
requirements:
  - requirement: R
    text: T
    criteria:
      - { criterion: a, sentence: "when mode becomes Day, vent = Open", accepted: { by: me, on: 2026-01-01 } }
      - { criterion: b, sentence: "while climate.mode = Night, lamp AND next = Closed", accepted: { by: me, on: 2026-01-01 } }
      - { criterion: c, sentence: "when enters Going, wanted <> Off", accepted: { by: me, on: 2026-01-01 } }
`,
};
const inProject = (more: Readonly<Record<string, string>>) =>
  projectOf({ ...documents, ...more }).faults.map(({ place, message }) => `${place.file} ${message}`);

describe('enumerations on faces', () => {
  const project = projectOf(documents);
  const { trace, result } = runCase(project);

  it('go through wires, charts, decision tables, parameters and cases by their names', () => {
    expect(project.faults).toEqual([]);
    const at = (name: string, seconds: number): string | undefined => {
      const found = trace.columns.find((one) => one.name === name)!;
      const { time, data } = column(trace, name);
      return found.labels?.[data[time.findLastIndex((one) => one <= seconds)]!];
    };
    expect([0.5, 1.5, 2.5, 3.5].map((seconds) => at('climate.mode', seconds))).toEqual(['Night', 'Day', 'Night', 'Night']);
    expect([0.5, 1.5, 2.5, 3.5].map((seconds) => at('climate.vent', seconds))).toEqual(['Off', 'Open', 'Closed', 'Off']);
    expect([0.5, 1.5, 2.5].map((seconds) => at('table.next', seconds))).toEqual(['Closed', 'Open', 'Closed']);
  });

  it('are named in criteria, where what stands beside them tells of two alike which is meant', () => {
    expect(result.results.map(({ verdict }) => verdict)).toEqual(['pass', 'pass', 'pass']);
  });

  it('refuse a value of another one, a number that none has, and a wire between two', () => {
    expect(inProject({ 'cases/c.yaml': 'case: c\nloop: l\nstimuli: { wanted: [{ hold: Open }, { step: 3, at: 1 s }] }\n' })).toEqual([
      'cases/c.yaml wanted is Mode; "Open" is none of its values.',
      'cases/c.yaml wanted is Mode; 3 is none of its values.',
    ]);
    expect(inProject({ 'loops/l.yaml': loop.replace('from: climate.mode', 'from: climate.vent') })).toContain(
      'loops/l.yaml climate.vent is Vent, but table.mode expects Mode.',
    );
    expect(inProject({ 'components/climate.yaml': chart.replace('mode := wanted;', 'mode := Vent#Open;') })).toEqual([
      'components/climate.yaml This is a value of Vent, but one of Mode is expected here.',
    ]);
    expect(inProject({ 'components/table.yaml': table.replace('{ now: Day }, then', '{ now: Dusk }, then') })).toEqual([
      'components/table.yaml Rules 1 and 3 both fit when now is Off, and act differently.',
      'components/table.yaml Rules 2 and 3 both fit when now is Night, and act differently.',
      'components/table.yaml now: "Dusk" is no value of Mode.',
    ]);
  });

  it('a table has to take each value, and no other', () => {
    const without = table.replace(/ {4}- \{ when: \{ now: Day.*\n/, '');
    expect(inProject({ 'components/table.yaml': without })).toEqual(['components/table.yaml No rule fits when now is Day.']);
  });

  it('an ambiguous value by itself is asked about', () => {
    expect(
      inProject({
        'components/x.yaml': 'component: X\noutputs: { n: { type: INT } }\nbehaviour: { kind: routine, period: 1 s, body: "n := Off;" }\n',
      }),
    ).toEqual(['components/x.yaml "Off" could be Mode#Off or Vent#Off.']);
  });

  it('each value of a free input is to be seen by cases', () => {
    const { plan } = project.loops.get('l')!;
    expect(plan.positions.filter(({ isLimit }) => isLimit).map(({ component, text }) => `${component} ${text}`)).toEqual([
      'wanted Off',
      'wanted Night',
      'wanted Day',
    ]);
  });

  it('behave alike once written as Structured Text and as SCXML', () => {
    const component = project.project.components.get('climate')!;
    for (const [file, text] of [
      ['components/climate.st', componentAsStructuredText(project.project, component)],
      ['components/climate.scxml', emitScxml(component.raw)],
    ] as const) {
      const { 'components/climate.yaml': _, 'requirements/r.yaml': __, ...others } = documents;
      const again = runCase(projectOf({ ...others, [file]: text })).trace;
      for (const name of ['climate.mode', 'climate.vent', 'table.next']) {
        expect([...column(again, name).data], file).toEqual([...column(trace, name).data]);
        expect(again.columns.find((one) => one.name === name)?.labels).toEqual(trace.columns.find((one) => one.name === name)?.labels);
      }
    }
  });

  it('are constants of emitted C, whose members keep the names of the face, but for words of C', () => {
    const { header, source } = emitCUnit(
      assembleLoop(project.project, aloneLoop(project.project.components.get('climate')!), new Faults()).plan,
      'Climate',
    );
    expect(header).toContain('enum { Climate_Mode_Off = 0, Climate_Mode_Night = 1, Climate_Mode_Day = 2 };');
    expect(source).toContain('s->out.vent = Climate_Vent_Open;');
    const odd = projectOf({
      'components/o.yaml':
        'component: Odd\ninputs: { default: { type: BOOL }, a_b: { type: LREAL } }\noutputs: { int: { type: BOOL }, while_: { type: LREAL } }\nbehaviour: { kind: decision table, period: 1 s, conditions: { c: default }, rules: [{ when: { c: TRUE }, then: { int: TRUE } }, { when: { c: FALSE }, then: { int: FALSE } }] }\n',
    }).project;
    const plan = assembleLoop(odd, aloneLoop(odd.components.get('odd')!), new Faults()).plan;
    expect(
      emitCUnit(plan, 'Odd')
        .header.match(/^ {4}\w+ (\w+);/gm)
        ?.map((one) => one.trim()),
    ).toEqual(expect.arrayContaining(['bool default_;', 'double a_b;', 'bool int_;']));
  });
});

describe('a recording with names', () => {
  const project = projectOf(documents);
  const { trace, result } = runCase(project);
  const csv = writeCsvTrace(trace);

  it('has states and values by name, and is judged as the run was', () => {
    expect(csv.split('\n')[0]).toContain('climate.mode{Off|Night|Day}');
    expect(csv.split('\n')[0]).toContain('climate.climate{-|Waiting|Going}');
    const read = readCsvTrace(csv);
    if ('problem' in read) throw new Error(read.problem);
    const found = judgeRecording(project, read.trace);
    if ('problems' in found) throw new Error(found.problems.join());
    expect(found.results.map(({ verdict, obligations }) => [verdict, obligations])).toEqual(
      result.results.map(({ verdict, obligations }) => [verdict, obligations]),
    );
    expect([found.unseen, found.unknown]).toEqual([[], []]);
  });

  it('may have been made by something else: names without an order, other units, columns that nobody knows', () => {
    const read = readCsvTrace(
      'time[s],climate.mode,vent,table.lamp,next,room\n0,Night,Off,TRUE,Closed,1\n1,Day,Open,FALSE,Open,1\n2,Day,Open,FALSE,Open,1\n',
    );
    if ('problem' in read) throw new Error(read.problem);
    const found = judgeRecording(project, read.trace);
    if ('problems' in found) throw new Error(found.problems.join());
    expect(found.results.map(({ name, verdict }) => `${name} ${verdict}`)).toEqual(['a pass', 'b pass']);
    expect(found.unseen).toEqual([{ requirement: 'R', name: 'c', missing: ['wanted', 'climate.climate'] }]);
    expect(found.unknown).toEqual(['room']);
  });

  it('with what cannot be right is refused, column by column', () => {
    const read = readCsvTrace('time[s],mode,air[K],lamp\n0,Nigth,290,2\n1,Day,291,1\n');
    if ('problem' in read) throw new Error(read.problem);
    expect(judgeRecording(project, read.trace)).toEqual({
      problems: [
        'mode: Nigth in row 1 is no value of climate.mode, which is Mode.',
        'air: the column is in K, but the signal is in °C.',
        'lamp: 2 in row 1 is no value of table.lamp, which is BOOL.',
      ],
    });
  });

  it('takes no word for a name where the column has a unit', () =>
    expect(readCsvTrace('time[s],air[K]\n0,hot\n1,hot\n')).toMatchObject({ line: 2, problem: '"hot" in column "air" is not a number' }));
});
