import { describe, expect, it } from 'vitest';
import { checkProject } from '@/core/project';

const lines = (count: number, line: (index: number) => string): string => Array.from({ length: count }, (_, index) => line(index)).join('');
const faultsOf = (path: string, text: string): string[] =>
  checkProject([
    { path: 'project.yaml', text: 'project: Large\n' },
    { path, text },
  ]).faults.map(({ code }) => code);
const block = (name: string, variables: string, body: string): string =>
  `FUNCTION_BLOCK ${name}\nVAR_INPUT x : LREAL; END_VAR\nVAR_OUTPUT y : LREAL; END_VAR\n${variables}${body}\nEND_FUNCTION_BLOCK\n`;
const equations = (lets: string): string =>
  `component: E\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { x: { start: 0 } }\n  let:\n${lets}  derivatives: { x: "1.0" }\n  outputs: { y: v1 }\n`;

/** Small texts that stand for something enormous: each is a fault, and is told before memory or patience end. */
describe('documents that grow by themselves', () => {
  it('structures that hold each other twice', () => {
    const types = `TYPE\nS0 : STRUCT a : LREAL; b : LREAL; END_STRUCT;\n${lines(24, (i) => `S${i + 1} : STRUCT a : S${i}; b : S${i}; END_STRUCT;\n`)}END_TYPE\n`;
    expect(faultsOf('components/t.st', types + block('Big', 'VAR s : S24; END_VAR\n', 'y := x;'))).toContain('too-large');
  });

  it('function blocks that hold, or call, each other twice', () => {
    const twice = (call: string) => block('F0', '', 'y := x;') + lines(20, (i) => block(`F${i + 1}`, `VAR a : F${i}; b : F${i}; END_VAR\n`, call));
    // Nothing is told of what follows from it.
    for (const call of ['a(x := x, y => y); b(x := y, y => y);', 'a(x := x, y => y); a(x := y, y => y);'])
      expect([...new Set(faultsOf('components/t.st', twice(call)))]).toEqual(['too-large']);
  });

  it('sums of more terms than a stack holds', () => {
    expect(faultsOf('components/t.st', block('F', '', `y := ${Array.from({ length: 20_000 }, () => 'x').join(' + ')};`))).toEqual(['too-deep']);
    expect(faultsOf('components/t.st', block('F', '', `y := ${Array.from({ length: 1000 }, () => 'x').join(' + ')};`))).toEqual([]);
  });

  it('comparisons nested in sentences are read once each', () => {
    const sentence = `always ${'(x = '.repeat(60)}1${')'.repeat(60)}`;
    const text = `section: S\nrequirements: [{ requirement: R, text: t, criteria: [{ criterion: c, sentence: "${sentence}" }] }]\n`;
    expect(faultsOf('requirements/r.yaml', text)).toEqual([]);
  });
});

describe('large documents', () => {
  it('with ten thousand intermediate values, and thousands of faults, are checked', () => {
    const good = equations(lines(10_000, (i) => `    v${i}: "x + ${i}.0${i > 0 ? ` + v${i - 1}` : ''}"\n`));
    expect(faultsOf('components/e.yaml', good)).toEqual([]);
    const bad = equations(lines(3_000, (i) => `    v${i}: "x + zz${i}"\n`));
    expect(faultsOf('components/e.yaml', bad)).toHaveLength(3_000);
  });

  it('with thousands of misspelt names are checked, each with the right one beside it', () => {
    const misspelt = checkProject([
      { path: 'project.yaml', text: 'project: Large\n' },
      { path: 'components/e.yaml', text: equations(lines(3_000, (i) => `    level_of_tank_${i}: "x + levle_of_tank_${i}"\n`)) },
    ]).faults.filter(({ message }) => message.includes('levle'));
    expect(misspelt.map(({ fix }) => fix)).toEqual(Array.from({ length: 3_000 }, (_, i) => `Did you mean "level_of_tank_${i}"?`));
  });

  it('comments that are never closed are told once, and read once', () => {
    const open = '(* '.repeat(200_000);
    const faults = checkProject([
      { path: 'project.yaml', text: 'project: Large\n' },
      { path: 'components/e.st', text: `FUNCTION_BLOCK E\n${open}` },
      { path: 'components/e.yaml', text: equations(`    v1: "1.0 + ${open}"\n`) },
    ]).faults;
    expect(faults.filter(({ message }) => message === 'This comment is never closed.')).toHaveLength(2);
  });

  it('a name in a comment is no use of it', () => {
    const project = checkProject([
      { path: 'project.yaml', text: 'project: Comments\n' },
      { path: 'components/e.yaml', text: equations('    v1: "x (* v2 *)"\n    v2: "x // v1 of old"\n') },
    ]);
    expect(project.faults).toEqual([]);
    expect(project.warnings.map(({ message }) => message)).toEqual(['"v2" is not used.']);
  });

  it('a recording of 200,000 rows is played whole', () => {
    const csv = `time[s],a[m]{hold}\n${lines(200_000, (i) => `${i / 100},${i}\n`)}`;
    const project = checkProject([
      { path: 'project.yaml', text: 'project: Long\n' },
      { path: 'recordings/long.csv', text: csv },
      {
        path: 'components/r.yaml',
        text: 'component: R\noutputs: { a: { type: LREAL, unit: m } }\nbehaviour: { kind: recording, file: recordings/long.csv }\n',
      },
      { path: 'loops/l.yaml', text: 'loop: l\ncomponents: { r: { use: R } }\nunused: [r.a]\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n' },
      { path: 'cases/c.yaml', text: 'case: c\nloop: l\n' },
    ]);
    expect(project.faults).toEqual([]);
    expect(project.cases[0]!.experiment.plan.played.length).toBeGreaterThan(190_000);
  });
});
