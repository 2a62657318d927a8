import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { printFault } from '@/core/fault';
import { checkProject } from '@/core/project';
import { demoFiles, projectOf } from '../support/project';

function edited(files: readonly SourceFile[], path: string, from: string, to: string): SourceFile[] {
  expect(files.find((file) => file.path === path)?.text).toContain(from);
  return files.map((file) => (file.path === path ? { ...file, text: file.text.replace(from, to) } : file));
}

describe('checks before a run', () => {
  it('finds the demo clean', async () => expect(checkProject(await demoFiles()).faults.map(printFault)).toEqual([]));

  it('names six planted faults in one go, each with its place', async () => {
    let files = await demoFiles();
    files = edited(files, 'requirements/3-motion-and-level.yaml', 'always chamber.rate <=', 'always chamber.speed <=');
    files = edited(files, 'components/level-sensor.yaml', 'level: { type: LREAL, unit: m,', 'level: { type: LREAL, unit: mm,');
    files = edited(files, 'loops/lock.yaml', '  - { from: upper_drive.opened, to: supervisor.upper_opened }\n', '');
    files = edited(
      files,
      'components/gate-drive.yaml',
      '    speed: 100 / travel_time * drive * LIMIT',
      '    loopback: speed * 0.5\n    speed: 100 / travel_time * (drive + loopback) * LIMIT',
    );
    files = edited(files, 'loops/lock.yaml', 'start_position: 100', 'start_position: 130');
    files = edited(files, 'cases/5-low-lift.yaml', 'stop: 300 s', 'stop: [300 s');
    const places = checkProject(files).faults.map(({ code, place }) => `${code} ${place.file}:${place.line}`);
    expect(places).toContain('unknown-name requirements/3-motion-and-level.yaml:8');
    expect(places).toContain('unit loops/lock.yaml:33');
    expect(places).toContain('unconnected-input loops/lock.yaml:4');
    expect(places).toContain('algebraic-ring components/gate-drive.yaml:25');
    expect(places).toContain('outside-limits loops/lock.yaml:8');
    expect(places.filter((place) => place.startsWith('yaml cases/5-low-lift.yaml')).length).toBeGreaterThan(0);
    for (const fault of checkProject(files).faults) {
      expect(fault.place.column).toBeGreaterThan(0);
      expect(fault.fix).not.toBe('');
    }
  });

  it('a faulty component hides no other fault, and causes none', async () => {
    let files = edited(await demoFiles(), 'components/chamber.yaml', 'area: { value: 212.8', 'area: { value 212.8');
    expect(new Set(checkProject(files).faults.map((fault) => fault.place.file))).toEqual(new Set(['components/chamber.yaml']));
    files = edited(files, 'requirements/3-motion-and-level.yaml', 'always chamber.rate <=', 'always chamber.speed <=');
    expect(checkProject(files).faults.map(({ code, place }) => `${code} ${place.file}:${place.line}`)).toContain(
      'unknown-name requirements/3-motion-and-level.yaml:8',
    );
  });

  it('points into the middle of a sentence', async () => {
    const files = edited(await demoFiles(), 'requirements/3-motion-and-level.yaml', 'always chamber.rate <=', 'always chamber.speed <=');
    expect(checkProject(files).faults).toMatchObject([{ place: { line: 8, column: 27 }, code: 'unknown-name' }]);
  });

  it('reports an algebraic ring with its full path', () => {
    const component = (name: string): string =>
      `component: ${name}\ninputs: { a: { type: LREAL } }\noutputs: { b: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { b: "a + 1" } }\n`;
    const { faults } = projectOf({
      'components/p.yaml': component('P'),
      'components/q.yaml': component('Q'),
      'loops/l.yaml':
        'loop: l\ncomponents: { p: { use: P }, q: { use: Q } }\nwires: [{ from: p.b, to: q.a }, { from: q.b, to: p.a }]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
    });
    expect(faults.map((fault) => fault.code)).toEqual(['algebraic-ring']);
    expect(faults[0]?.message).toMatch(/p\.b → q\.b → p\.b|q\.b → p\.b → q\.b/);
  });

  it('a state breaks a ring, and so does the border between sampled and continuous', () => {
    const lag =
      'component: Lag\ninputs: { a: { type: LREAL } }\noutputs: { b: { type: LREAL } }\nbehaviour: { kind: equations, states: { s: { start: 0 } }, derivatives: { s: a - s }, outputs: { b: s } }\n';
    const gain =
      'component: Gain\ninputs: { a: { type: LREAL } }\noutputs: { b: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { b: "1 - a" } }\n';
    const { faults } = projectOf({
      'components/p.yaml': lag,
      'components/q.yaml': gain,
      'loops/l.yaml':
        'loop: l\ncomponents: { p: { use: Lag }, q: { use: Gain } }\nwires: [{ from: p.b, to: q.a }, { from: q.b, to: p.a }]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
    });
    expect(faults).toEqual([]);
  });

  it('tells names that differ in case only, a step that does not divide a period, and a state nobody reaches', () => {
    const chart =
      'component: C\noutputs: { x: { type: BOOL }, X: { type: BOOL } }\nbehaviour:\n  kind: chart\n  period: 25 ms\n  regions: { r: { initial: A, states: { A: {}, B: {} } } }\n';
    const { faults } = projectOf({
      'components/c.yaml': chart,
      'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
    });
    expect(new Set(faults.map((fault) => fault.code))).toEqual(new Set(['duplicate-name', 'period', 'unreachable-state']));
  });
});

describe('hostile input', () => {
  const component = (name: string, formula: string): string =>
    `component: ${name}\noutputs: { out: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { out: ${JSON.stringify(formula)} } }\n`;
  const codes = (documents: Record<string, string>): string[] => projectOf(documents).faults.map((fault) => fault.code);

  it('takes "constructor" for a name like any other', () => {
    expect(codes({ 'components/a.yaml': component('constructor', '1.0') })).toEqual([]);
    expect(codes({ 'components/a.yaml': component('A', 'constructor + toString') })).toEqual(['unknown-name']);
    expect(codes({ 'components/a.yaml': component('A', 'constructor(1)') })).toEqual(['unknown-name']);
  });
  it('refuses __proto__ as name, key and in formulas', () => {
    expect(codes({ 'components/a.yaml': '__proto__: 1\ncomponent: A\nbehaviour: { kind: equations }\n' })).toContain('name');
    expect(codes({ 'components/a.yaml': component('__proto__', '1.0') }).length).toBeGreaterThan(0);
    expect(codes({ 'components/a.yaml': component('A', '__proto__') })).toEqual(['unknown-name']);
    expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
  });
  it('never lets a text with code in it reach the compiler', () => {
    expect(codes({ 'components/a.yaml': component('A', 'a;process.exit()') }).length).toBeGreaterThan(0);
    expect(codes({ 'components/a.yaml': component('"a;process.exit()"', '1.0') }).length).toBeGreaterThan(0);
  });
  it('tells 10,000 nested parentheses', () => {
    expect(codes({ 'components/a.yaml': component('A', `${'('.repeat(10_000)}1${')'.repeat(10_000)}`) })).toEqual(['too-deep']);
    expect(codes({ 'components/a.yaml': component('A', `${'-'.repeat(10_000)}1`) })).toEqual(['too-deep']);
  });
  it('tells a document nested ten thousand deep, and one of 20 MB', () => {
    expect(codes({ 'components/a.yaml': `a: ${'['.repeat(10_000)}${']'.repeat(10_000)}` }).length).toBeGreaterThan(0);
    expect(codes({ 'components/a.yaml': `component: A\nabout: ${'x'.repeat(20_000_000)}\n` })).toEqual(['file-too-large']);
  });
  it.each([
    ['brackets', `a: ${'['.repeat(20_000)}${']'.repeat(20_000)}`],
    ['braces', `a: ${'{ a: '.repeat(5_000)}1${' }'.repeat(5_000)}`],
    ['brackets that are not closed', `a: ${'['.repeat(100_000)}`],
    ['brackets with others in quotes', `a: ${'["]", '.repeat(20_000)}`],
    ['brackets beside apostrophes', `a: ${"[it's, ".repeat(20_000)}`],
    ['lists on one line', `${'- '.repeat(50_000)}a`],
    ['keys on one line', `${'? '.repeat(50_000)}a`],
    ['lines, each further in', Array.from({ length: 1_900 }, (_, level) => `${' '.repeat(level)}a:`).join('\n')],
  ])('tells a document nested deeply by %s, and reads on', (_, text) => {
    expect(projectOf({ 'components/a.yaml': text }).faults.map((fault) => fault.message)).toContain('The document is nested too deeply to be read.');
  });
  it('reads what is nested some hundred deep, and many brackets side by side', () => {
    const deep = (levels: number): string[] =>
      projectOf({ 'components/a.yaml': `component: A\nx: ${'['.repeat(levels)}${']'.repeat(levels)}\n` }).faults.map((one) => one.message);
    expect(deep(390)).not.toContain('The document is nested too deeply to be read.');
    expect(deep(410)).toContain('The document is nested too deeply to be read.');
    const wide = `component: A\nabout: "${'[ '.repeat(3_000)}"\nx: [${'[1], '.repeat(3_000)}]\n`;
    expect(projectOf({ 'components/a.yaml': wide }).faults.map((one) => one.message)).not.toContain('The document is nested too deeply to be read.');
  });
  it('tells a bomb of aliases without setting it off', () => {
    const bomb = [
      'a: &a [x, x, x, x, x, x, x, x, x]',
      ...'bcdefghi'.split('').map((name, i) => `${name}: &${name} [${Array(9).fill(`*${'abcdefgh'[i]}`).join(', ')}]`),
    ].join('\n');
    expect(new Set(codes({ 'components/a.yaml': bomb }))).toContain('yaml-alias');
  });
  it('tells duplicate keys', () => expect(codes({ 'components/a.yaml': 'component: A\ncomponent: B\n' })).toContain('yaml-duplicate-key'));
});
