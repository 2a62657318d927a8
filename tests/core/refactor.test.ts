import { beforeAll, describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { checkProject } from '@/core/project';
import { definitionAt, gatherParts, type Renamed, renameAt } from '@/core/refactor';
import { readFolder } from '@/server/folder';
import { column, runCase } from '../support/project';

let tarn: readonly SourceFile[];
let crane: readonly SourceFile[];
beforeAll(async () => {
  tarn = (await readFolder('demo/tarn-lock')).files;
  crane = (await readFolder('demo/quay-crane')).files;
});

/** Renames what stands at the mark `|` in a piece of a document. */
function rename(files: readonly SourceFile[], file: string, marked: string, to: string): Renamed {
  const text = files.find((one) => one.path === file)?.text ?? '';
  const at = text.indexOf(marked.replace('|', ''));
  if (at < 0) throw new Error(`"${marked}" is not in ${file}`);
  return renameAt(files, file, at + marked.indexOf('|'), to);
}

function applied(files: readonly SourceFile[], renamed: Renamed): readonly SourceFile[] {
  if ('refused' in renamed) throw new Error(renamed.refused);
  const changed = new Map(renamed.files.map((one) => [one.path, one]));
  return files.map((one) => changed.get(one.path) ?? one);
}

const textOf = (files: readonly SourceFile[], path: string): string => files.find((one) => one.path === path)?.text ?? '';

describe('renaming in the lock', () => {
  it.each([
    [
      'an input, seen in its component',
      'components/lock-supervisor.yaml',
      '|chamber_level: {',
      'chamber_reading',
      ['components/lock-supervisor.yaml', 'loops/lock.yaml'],
    ],
    [
      'an input, seen at a wire',
      'loops/lock.yaml',
      'supervisor.chamber_|level',
      'chamber_reading',
      ['components/lock-supervisor.yaml', 'loops/lock.yaml'],
    ],
    [
      'an output that criteria name by its end',
      'components/lock-supervisor.yaml',
      '  |alarm: {',
      'siren',
      ['requirements/1-sequence.yaml', 'requirements/5-alarms-and-faults.yaml'],
    ],
    [
      'a region, seen in a criterion',
      'requirements/3-motion-and-level.yaml',
      'enters upper_|gate.Opening',
      'top_gate',
      ['cases/4-up-and-down.yaml', 'components/lock-supervisor.yaml'],
    ],
    ['an instance', 'loops/lock.yaml', '  |chamber: {', 'basin', ['loops/lock.yaml', 'requirements/3-motion-and-level.yaml']],
    [
      'an instance, seen in a case',
      'cases/2-upward-sway.yaml',
      'upper_|reach.sway',
      'top_reach',
      ['cases/5-low-lift.yaml', 'loops/lock.yaml', 'requirements/2-interlocks.yaml'],
    ],
    ['a component', 'components/chamber.yaml', 'component: |Chamber', 'Basin', ['components/chamber.yaml', 'loops/lock.yaml']],
    ['a loop', 'loops/lock.yaml', 'loop: |lock', 'tarn', ['cases/9-upward-detailed.yaml', 'loops/lock.yaml']],
    [
      'a parameter',
      'components/reach.yaml',
      '  |sway: {',
      'swell',
      ['campaigns/sway-and-wear.yaml', 'cases/2-upward-sway.yaml', 'components/reach.yaml'],
    ],
    ['a part of a network', 'components/paddle-law.yaml', '    |control: {', 'speed_control', ['components/paddle-law.yaml']],
    ['a parameter of a network', 'components/paddle-law.yaml', '  |approach: {', 'creeping', ['components/paddle-law.yaml']],
  ])('%s', (_, file, marked, to, touched) => {
    const renamed = rename(tarn, file, marked, to);
    const files = applied(tarn, renamed);
    expect(checkProject(files).faults).toEqual([]);
    expect('files' in renamed && renamed.files.map((one) => one.path)).toEqual(expect.arrayContaining(touched));
    // And back: nothing else has changed on the way.
    expect(applied(files, rename(files, file, replacedIn(marked, to), 'was' in renamed ? renamed.was : ''))).toEqual(tarn);
  });

  it('leaves prose alone', () => {
    const files = applied(tarn, rename(tarn, 'components/gate-drive.yaml', '  |position: {', 'travel'));
    expect(textOf(files, 'components/gate-drive.yaml')).toContain('about: position at the start of a run');
    expect(textOf(files, 'requirements/3-motion-and-level.yaml')).toContain('upper_drive.travel >= 99 %');
  });

  it.each([
    ['a name that is taken', 'components/reach.yaml', '  |sway: {', 'period', /^Reach has a "period" already\.$/],
    ['no name', 'components/reach.yaml', '  |sway: {', '2nd', /"2nd" is no name/],
    ['a word of the language', 'components/reach.yaml', 'equations|', 'x', /This is no name of/],
    ['nothing', 'components/reach.yaml', '|: equations', 'x', /./],
  ])('refuses: %s', (_, file, marked, to, message) => {
    const renamed = rename(tarn, file, marked, to);
    expect('refused' in renamed ? renamed.refused : '').toMatch(message);
  });
});

/** The marked piece as it reads after the renaming. */
function replacedIn(marked: string, to: string): string {
  const before = /[A-Za-z_]*$/.exec(marked.slice(0, marked.indexOf('|')))?.[0] ?? '';
  const after = /^[A-Za-z_0-9]*/.exec(marked.slice(marked.indexOf('|') + 1))?.[0] ?? '';
  return marked.replace(`${before}|${after}`, `|${to}`);
}

describe('renaming in Structured Text', () => {
  it('a variable of the face and what is wired to it', () => {
    const files = applied(crane, rename(crane, 'components/drive-loop.st', '  |accel', 'acceleration'));
    expect(checkProject(files).faults).toEqual([]);
    expect(textOf(files, 'components/drive-loop.st')).not.toMatch(/\baccel\b/);
    expect(textOf(files, 'loops/crane.yaml')).toContain('drive.acceleration');
  });
});

describe('gathering parts of a network into a component', () => {
  const gathered = (parts: readonly string[], name: string): readonly SourceFile[] | string => {
    const found = gatherParts(tarn, 'PaddleLaw', parts, name);
    if ('refused' in found) return found.refused;
    const changed = new Map(found.files.map((file) => [file.path, file]));
    return [...tarn.filter((file) => !changed.has(file.path)), ...changed.values()];
  };

  it('takes their text along, and the lock behaves as before to the last bit', () => {
    const files = gathered(['rate', 'speed', 'control'], 'SpeedControl');
    if (typeof files === 'string') throw new Error(files);
    expect(textOf(files, 'components/speed-control.yaml')).toBe(`component: SpeedControl
about: Part of PaddleLaw.
inputs:
  chamber_level: { type: LREAL, unit: "m" }
  target: { type: LREAL }
outputs:
  control_out: { type: LREAL }
behaviour:
  kind: network
  period: 80 ms
  parts:
    rate: { use: derivative, inputs: { in: chamber_level }, parameters: { k: 1000, tf: 2 } }
    speed: { use: absolute, inputs: { in: rate } }
    control: { use: pid, inputs: { setpoint: target, measured: speed }, parameters: { kp: 1.2, ti: 6, low: 0, high: 100, tt: 4 } }
  outputs: { control_out: control }
`);
    expect(textOf(files, 'components/paddle-law.yaml')).toContain(
      '    speed_control: { use: SpeedControl, inputs: { chamber_level: chamber_level, target: target } }\n    opening: { use: rate_limit, inputs: { in: speed_control.control_out }',
    );
    const [before, after] = [checkProject(tarn), checkProject(files)].map((project) => {
      expect(project.faults).toEqual([]);
      const { trace } = runCase(project, 'Upward transit, low lift');
      return ['chamber.level', 'fill_paddle.opening', 'upper_drive.position'].map((signal) => [...column(trace, signal).data]);
    });
    expect(after).toEqual(before);
  });

  it('refuses what makes no component', () => {
    expect(gathered(['fill', 'nobody'], 'X')).toBe('Choose parts of this network.');
    expect(gathered(['fill'], 'Chamber')).toBe('There is a component "Chamber" already.');
    expect(gathered(['fill'], 'Target')).toBe('PaddleLaw has a "target" already.');
    expect(gathered(['fill'], 'two words')).toMatch(/is no name/);
  });
});

describe('going to where a name is defined', () => {
  /** The line of the definition of what stands at the mark, with its file. */
  const definition = (files: readonly SourceFile[], file: string, marked: string): string => {
    const at = textOf(files, file).indexOf(marked.replace('|', ''));
    if (at < 0) throw new Error(`"${marked}" is not in ${file}`);
    const place = definitionAt(files, file, at + marked.indexOf('|'));
    return place ? `${place.file}: ${textOf(files, place.file).split('\n')[place.line - 1]?.trim()}` : 'nothing';
  };

  it.each([
    ['a component, where it is used', 'loops/lock.yaml', 'use: Paddle|Law', /^components\/paddle-law\.yaml: component: PaddleLaw$/],
    ['an instance, at a wire', 'loops/lock.yaml', 'from: super|visor.', /^loops\/lock\.yaml: supervisor: \{/],
    [
      'an output of another component, at a wire',
      'loops/lock.yaml',
      'supervisor.chamber_|level',
      /^components\/lock-supervisor\.yaml: chamber_level: \{/,
    ],
    ['a parameter, in a guard', 'components/lock-supervisor.yaml', 'after: travel_|limit', /^components\/lock-supervisor\.yaml: travel_limit: \{/],
    ['a region, in a guard', 'components/lock-supervisor.yaml', 'when: lower_|gate.Faulted', /^components\/lock-supervisor\.yaml: lower_gate:$/],
    [
      'a region, in a criterion',
      'requirements/3-motion-and-level.yaml',
      'enters upper_|gate.Opening',
      /^components\/lock-supervisor\.yaml: upper_gate:$/,
    ],
    ['the loop of a case', 'cases/4-up-and-down.yaml', 'loop: lo|ck', /^loops\/lock\.yaml: loop: lock$/],
    ['what the language brings along', 'components/paddle-law.yaml', 'use: mini|mum', /^nothing$/],
  ])('%s', (_, file, marked, line) => {
    expect(definition(tarn, file, marked)).toMatch(line);
  });

  const door = (name: string): string => `    ${name}:
      initial: Shut
      states:
        Shut: { go: [{ to: Open, when: asked }] }
        Open: { go: [{ to: Shut, when: ${name === 'left' ? 'right.Open' : 'left.Open'} }] }
`;
  const files: readonly SourceFile[] = [
    { path: 'project.yaml', text: 'project: Doors\n' },
    { path: 'definitions.yaml', text: 'constants: { far: { value: 9, unit: m } }\nenumerations:\n  Mode: [Idle, Busy]\n' },
    {
      path: 'components/doors.yaml',
      text: `component: Doors\ninputs: { asked: { type: BOOL } }\noutputs: { there: { type: BOOL } }\nbehaviour:\n  kind: chart\n  period: 1 s\n  regions:\n${door('left')}${door('right')}`,
    },
    {
      path: 'components/two.st',
      text: `FUNCTION half : LREAL
VAR_INPUT x : LREAL; END_VAR
half := x / 2.0;
END_FUNCTION
FUNCTION_BLOCK First
VAR_OUTPUT y : LREAL; END_VAR
y := half(far);
END_FUNCTION_BLOCK
FUNCTION_BLOCK Second
VAR_OUTPUT y : LREAL; END_VAR
VAR inner : First; END_VAR
inner(); y := inner.y;
END_FUNCTION_BLOCK
`,
    },
  ];
  const lineOf = (file: string, marked: string): number | undefined => {
    const at = textOf(files, file).indexOf(marked.replace('|', ''));
    return definitionAt(files, file, at + marked.indexOf('|'))?.line;
  };

  it('takes of states that are called alike the one that is meant', () => {
    expect(lineOf('components/doors.yaml', 'to: Shut, when: right.Op|en')).toBe(17);
    expect(lineOf('components/doors.yaml', 'to: Sh|ut, when: right.Open')).toBe(11);
    expect(lineOf('components/doors.yaml', 'to: Sh|ut, when: left.Open')).toBe(16);
    expect(lineOf('components/doors.yaml', 'to: Shut, when: le|ft.Open')).toBe(8);
  });

  it('knows blocks, functions and variables of Structured Text, and constants', () => {
    expect(lineOf('components/two.st', 'y := ha|lf(far)')).toBe(1);
    expect(lineOf('components/two.st', 'y := half(fa|r)')).toBe(1);
    expect(lineOf('components/two.st', 'inner : Fir|st')).toBe(5);
    expect(lineOf('components/two.st', 'inner(); |y :=')).toBe(10);
  });

  it('renames in a file of two blocks what the one at hand has, and not what the other calls alike', () => {
    const renamed = textOf(applied(files, rename(files, 'components/two.st', 'inner(); |y :=', 'result')), 'components/two.st');
    expect(renamed).toContain('inner(); result := inner.y;');
    expect(renamed).toContain('y := half(far);');
  });
});
