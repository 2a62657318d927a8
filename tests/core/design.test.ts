import { beforeAll, describe, expect, it } from 'vitest';
import {
  CaseFinder,
  caseOf,
  derivedDocument,
  emptyCase,
  type GoalKind,
  leftGoal,
  type Move,
  openSearch,
  Search,
  showingOf,
  suiteOf,
  tryToBreak,
} from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { checkProject } from '@/core/project';
import { readFolder } from '@/server/folder';

const kinds = new Set<GoalKind>(['triggered', 'state', 'transition', 'outcome', 'decides']);
let files: SourceFile[];
beforeAll(async () => {
  // Without the cases that somebody has written.
  files = (await readFolder('tests/projects/booster')).files.filter(({ path }) => !/^(cases|campaigns)\//.test(path));
});

/** Searches the booster station from nothing. */
function searched(seed: number, runs: number) {
  const project = checkProject([...files, { path: 'cases/empty.yaml', text: 'case: Empty\nloop: station\n' }]);
  const search = new Search(project, project.cases[0]!, [], { seed, kinds, withWires: true });
  const before = new Set(search.reached);
  while (search.runs < runs && search.left.length > 0) search.step();
  return { search, before, suite: suiteOf(search, before) };
}

describe('a search for cases', () => {
  it('triggers every criterion of a project and takes every transition, from nothing', () => {
    const { search } = searched(1, 600);
    const left = search.left.filter(({ kind }) => kind !== 'decides').map(({ words }) => words);
    expect(left).toEqual([]);
  });

  it('gives few small cases: written down and read again, each shows what it is there for', () => {
    const { search, before, suite } = searched(2, 300);
    const documents = suite.map((one, index) =>
      derivedDocument(
        { ...search.document(one.moves, one.stopNs), case: `Derived ${index + 1}` },
        { for: one.goals.map(({ words }) => words), seed: 2 },
        [],
      ),
    );
    const project = checkProject([...files, ...documents]);
    expect(project.faults).toEqual([]);
    const shown = new Set(before);
    suite.forEach(({ goals, moves }, index) => {
      const test = project.cases.find((one) => one.experiment.case === `Derived ${index + 1}`)!;
      const { reached } = showingOf(project, test);
      for (const { id } of goals) expect([...reached]).toContain(id);
      for (const id of reached) shown.add(id);
      expect(goals.length).toBeGreaterThan(0);
      expect(moves.every(({ atNs }) => atNs % 1e8 === 0)).toBe(true);
    });
    // Together they keep all that was reached.
    for (const { id } of search.goals) expect(shown.has(id)).toBe(search.reached.has(id));
    const lengths = suite.map(({ moves }) => moves.length).sort((a, b) => a - b);
    expect(lengths[Math.floor(lengths.length / 2)]).toBeLessThan(8);
  });

  it('finds the same from the same seed', () => {
    const [one, again] = [searched(3, 120), searched(3, 120)];
    expect(again.suite).toEqual(one.suite);
    expect(again.search.runs).toBe(one.search.runs);
  });

  it('goes on from the cases there are', () => {
    const { search, suite } = searched(4, 300);
    const [first] = suite;
    const document = derivedDocument({ ...search.document(first!.moves, first!.stopNs), case: 'There' }, { for: [], seed: 4 }, []);
    const project = checkProject([...files, document, { path: 'cases/empty.yaml', text: 'case: Empty\nloop: station\n' }]);
    const template = project.cases.find((one) => one.experiment.case === 'Empty')!;
    const later = new Search(project, template, project.cases, { seed: 4, kinds, withWires: true });
    for (const { id } of first!.goals) expect(later.reached.has(id)).toBe(true);
  });
});

describe('a case for one requirement', () => {
  it('is found, small, and triggers it; what has no accepted criterion is told', () => {
    const finder = CaseFinder.forRequirement(files, 'BS-02', { seed: 1, withWires: true });
    while (finder.left.length > 0) finder.step();
    const documents = finder.documents();
    const project = checkProject([...files, ...documents]);
    expect(project.faults).toEqual([]);
    const [test] = project.cases;
    expect(test!.document.raw.meant_for).toEqual(['BS-02']);
    expect([...showingOf(project, test!).reached]).toContain('triggered BS-02 stops');
    // A second one beside it has a name and a place of its own.
    const second = CaseFinder.forRequirement([...files, ...documents], 'BS-02', { seed: 1, withWires: true });
    while (second.left.length > 0) second.step();
    const both = checkProject([...files, ...documents, ...second.documents()]);
    expect(both.faults).toEqual([]);
    expect(both.cases.map((one) => one.experiment.case)).toEqual(['For BS-02, 2', 'For BS-02']);
    expect(() => CaseFinder.forRequirement(files, 'BS-99', { seed: 1 })).toThrow(/no accepted criterion/);
  });
});

describe('the document of some moves', () => {
  const movables = [
    { name: 'u', kind: 'real' as const, start: 0, low: 0, high: 10 },
    { name: 'go', kind: 'truth' as const, start: 0, low: 0, high: 1 },
  ];
  const written = (...moves: Move[]) => caseOf('l', 'c', 10e9, moves, movables);

  it('has each input in the order of time, a ramp up to the next move, messages and faults in a script', () => {
    expect(
      written(
        { atNs: 3e9, name: 'u', value: 5, untilNs: 9e9 },
        { atNs: 0, name: 'u', value: 1 },
        { atNs: 6e9, name: 'u', value: 2 },
        { atNs: 2e9, name: 'go', value: true },
        { atNs: 4e9, name: 'm.reset' },
        { atNs: 1e9, name: 's.y', fault: 'frozen' },
      ),
    ).toEqual({
      case: 'c',
      loop: 'l',
      stop: '10 s',
      stimuli: {
        u: [{ hold: 1 }, { ramp: 5, from: '3 s', until: '6 s' }, { step: 2, at: '6 s' }],
        go: [{ step: true, at: '2 s' }],
      },
      script: [{ hold: '1 s' }, { fault: { on: 's.y', frozen: true } }, { hold: '3 s' }, { send: 'm.reset' }],
    });
  });
});

describe('a level crossing without a case', () => {
  it('has all its criteria triggered and all its logic touched, where the speed of its barrier may vary', async () => {
    const { files: crossing } = await readFolder('tests/projects/crossing');
    const search = openSearch(crossing, 'crossing', { seed: 1, kinds, vary: 'plant' });
    while (search.runs < 1_500 && search.left.length > 0) search.step();
    expect(search.left.map(({ words }) => words)).toEqual([]);
    const lengths = suiteOf(search, search.known).map(({ moves }) => moves.length);
    expect(lengths.sort((a, b) => a - b)[Math.floor(lengths.length / 2)]).toBeLessThan(8);
  });
});

describe('a dough proofer without a case, over hours', () => {
  it('has all its criteria triggered and all its logic touched: what has to last for half an hour, too', async () => {
    const { files: proofer } = await readFolder('tests/projects/proofer');
    const search = openSearch(proofer, 'proofer', { seed: 1, kinds, vary: 'plant', withWires: true });
    const untried = leftGoal(search.goals.find(({ words }) => words.endsWith('Warming to Failed when after 30 min'))!, search);
    expect(untried.nearest).toBe('control.batch.Warming was never active');
    while (search.runs < 1_500 && search.left.length > 0) search.step();
    expect(search.left.map(({ words }) => words)).toEqual([]);
    const suite = suiteOf(search, search.known);
    const times = suite.flatMap(({ moves, stopNs }) => [stopNs, ...moves.map(({ atNs }) => atNs)]);
    // Times as a person would write them: whole seconds, and beyond ten minutes whole tens at the least, as a rule.
    expect(times.filter((ns) => ns % (ns > 600e9 ? 10e9 : 1e9) === 0).length).toBeGreaterThan(0.8 * times.length);
  });
});

describe('breaking a criterion', () => {
  /** A weakly damped body that follows its input: one step makes it overshoot by half, steps at the right instants by far more. */
  const swing = {
    'components/body.yaml':
      'component: Body\ninputs: { u: { type: LREAL, min: -1, max: 1 } }\noutputs: { y: { type: LREAL } }\nparameters: { stiff: { value: 1, min: 0.5, max: 2 } }\nbehaviour: { kind: equations, states: { x: { start: 0 }, v: { start: 0 } }, derivatives: { x: v, v: stiff * (u - x) - 0.3 * v }, outputs: { y: x } }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { body: { use: Body } }\ninputs: { u: { to: body.u } }\nsolver: { method: runge-kutta-4, step: 50 ms }\nstop: 40 s\n',
    'requirements/r.yaml': `section: S
requirements:
${[
  ['R1', 'body.y <= 1.85'],
  ['R2', 'body.y <= 9'],
]
  .map(
    ([id, what]) =>
      `  - { requirement: ${id}, text: It stays., criteria: [{ criterion: low, sentence: "always ${what}", accepted: { by: us, on: 2026-01-01 } }] }\n`,
  )
  .join('')}`,
  };
  const filesOf = (parts: Readonly<Record<string, string>>): SourceFile[] =>
    Object.entries({ 'project.yaml': 'project: Swing\n', ...parts }).map(([path, text]) => ({ path, text }));

  it('finds steps at the right instants, says how near it came to what it cannot break, and writes a case that shows it', () => {
    const { project, template } = emptyCase(filesOf(swing), 'l');
    const { search, attempts } = tryToBreak(project, template, { seed: 1 }, () => true, 600);
    const [first, second] = attempts;
    expect(first!.breaks!.moves.length).toBeLessThan(8);
    const document = derivedDocument({ ...search.document(first!.breaks!.moves, first!.breaks!.stopNs), case: 'Broken' }, { for: [], seed: 1 }, []);
    const again = checkProject([...filesOf(swing), document]);
    expect(again.faults).toEqual([]);
    expect([...showingOf(again, again.cases[0]!).reached]).toContain('broken R1 low');
    expect(second).toMatchObject({ requirement: 'R2', tries: expect.any(Number), least: { unit: '' } });
    expect(second!.breaks).toBeUndefined();
    // The margin that is told is that of a run that was made: the limit less the highest value, and never less than what physics leaves.
    expect(second!.least!.value).toBeGreaterThan(5);
    expect(second!.least!.value).toBeLessThan(7.15);
    expect(second!.tries).toBeGreaterThan(500);
  });

  it('varies parameters of the plant where that is allowed, and keeps the course of a case', () => {
    // The same parameter by another name, and an end of its own.
    const held =
      'case: Held\nloop: l\nstimuli: { u: [{ hold: 0.9 }] }\nparameters: { stiff: 0.9 }\nend: { when: body.y > 5, at_most: 40 s }\nsolver: { step: 25 ms }\n';
    const files = filesOf({ ...swing, 'cases/h.yaml': held, 'requirements/r.yaml': swing['requirements/r.yaml'].replace('1.85', '1.48') });
    const project = checkProject(files);
    expect(project.faults).toEqual([]);
    const template = project.cases[0]!;
    const only = ({ requirement }: { requirement: string }): boolean => requirement === 'R1';
    const as = tryToBreak(project, template, { seed: 1, keepsCourse: true }, only, 60);
    expect(as.attempts[0]!.breaks).toBeUndefined();
    const { search, attempts } = tryToBreak(project, template, { seed: 1, keepsCourse: true, vary: 'plant' }, only, 300);
    const raw = search.document(attempts[0]!.breaks!.moves, attempts[0]!.breaks!.stopNs);
    expect(raw.stimuli).toEqual({ u: [{ hold: 0.9 }] });
    expect(Object.keys(raw.parameters ?? {})).toEqual(['body.stiff']);
    expect([raw.end?.when, raw.stop, raw.solver]).toEqual(['body.y > 5', undefined, { step: '25 ms' }]);
    const document = derivedDocument({ ...raw, case: 'Broken' }, { for: [], seed: 1 }, []);
    const again = checkProject([...files, document]);
    expect(again.faults).toEqual([]);
    const found = again.cases.find((one) => one.experiment.case === 'Broken')!;
    expect([...showingOf(again, found).reached]).toContain('broken R1 low');
    expect(() => tryToBreak(project, template, { seed: 1, vary: ['body.weight'] }, only, 1)).toThrow(
      'there is no parameter or state body.weight in l',
    );
    expect(() => tryToBreak(project, template, { seed: 1, vary: ['body.x'] }, only, 1)).toThrow(
      'body.x has no limits: give it min and max where it is declared',
    );
  });
});
