import { describe, expect, it } from 'vitest';
import { CaseFinder, familyOf, type Handed, type Lane, Strain, type StrainTask, searchInStrains, strainCount } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { checkProject, goalMark, judgeGoals, withJustification } from '@/core/project';
import { readFolder } from '@/server/folder';

const folder = await readFolder('tests/projects/dryer');
/** Without the case that stops a batch. */
const files = folder.files.filter(({ path }) => path !== 'cases/stop.yaml');

describe('the family of a requirement', () => {
  const family = (of: readonly SourceFile[]) => familyOf(of, 'gd-04');
  const goals = (of: readonly SourceFile[]) => family(of).criteria.flatMap((one) => one.goals);

  it('names what cases would have to show, and which of them do', () => {
    const found = family(files);
    expect(found).toMatchObject({ requirement: 'GD-04', loop: 'dryer' });
    expect(found.criteria.map(({ name, goals: own }) => [name, own.map(({ says }) => says)])).toEqual([
      [
        'burner off',
        [
          'is triggered',
          'is decided: the run goes on for long enough',
          'it begins that stop holds, and just before "NOT operation.batch.Drying": nothing is owed',
          'what triggers it comes again while something is still owed',
          'is answered as late as the loop can',
        ],
      ],
    ]);
    expect(goals(files).filter(({ reachedBy }) => reachedBy.length > 0)).toEqual([]);
  });

  it('is reached by cases that are found for it, at a time that is told; each says what it is there for', () => {
    const finder = CaseFinder.forFamily(files, 'GD-04', { seed: 1, withWires: false });
    while (finder.runs < 300 && finder.left.length > 1) finder.step();
    const documents = finder.documents();
    const all = [...files, ...documents];
    expect(checkProject(all).faults).toEqual([]);
    const reached = goals(all).filter(({ reachedBy }) => reachedBy.length > 0);
    expect(reached.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['triggered', 'decided', 'boundary']));
    const names = checkProject(documents).project;
    for (const { reachedBy } of reached)
      for (const one of reachedBy) {
        expect([...names.cases.values()].map(({ raw }) => raw.case)).toContain(one.case);
        expect(one.at).toBeGreaterThanOrEqual(0);
      }
    for (const { path, text } of documents) {
      expect(path).toMatch(/^cases\/derived-/);
      expect(text).toContain('made:');
    }
  });

  it('leaves out a goal that was rejected, until its criterion changes', () => {
    const goal = goals(files).find(({ says }) => says.startsWith('what triggers it comes again'))!;
    const entry = { part: goal.id, reason: 'The burner is off at the next hit.', by: 'us', on: '2026-11-30', logic: goal.mark };
    const rejected: SourceFile[] = [...files, { path: 'coverage.yaml', text: withJustification('', entry)! }];
    const of = (all: readonly SourceFile[]) => goals(all).find(({ id }) => id === goal.id)!;
    expect(of(rejected).rejected).toEqual(entry);
    expect(CaseFinder.forFamily(rejected, 'GD-04', { seed: 1, withWires: false }).goals).toBe(
      CaseFinder.forFamily(files, 'GD-04', { seed: 1, withWires: false }).goals - 1,
    );
    const changed = rejected.map(({ path, text }) => ({ path, text: text.replace('within 1 s operation.burner', 'within 2 s operation.burner') }));
    expect(of(changed).rejected).toBeUndefined();
    expect(of(changed).lapsed).toEqual(entry);
    const { project } = checkProject(rejected);
    expect(goalMark(project, 'triggered GD-99 nothing')).toBe('');
    expect([...judgeGoals(project).justified.keys()]).toEqual([goal.id]);
  });

  it('is reached whole for a slip that has to last: to the hit, interrupted, and again while it is still owed', async () => {
    const escalator = (await readFolder('tests/projects/escalator')).files;
    const finder = CaseFinder.forFamily(escalator, 'ES-2', { seed: 0, withWires: false });
    while (finder.runs < 1500 && finder.left.length > 0) finder.step();
    expect(finder.left.map(({ words }) => words)).toEqual([]);
    const documents = finder.documents();
    const reached = familyOf([...escalator, ...documents], 'ES-2').criteria.flatMap((one) => one.goals);
    expect(reached).toHaveLength(8);
    expect(reached.filter(({ reachedBy }) => reachedBy.length === 0)).toEqual([]);
  });

  it('has words for a requirement without a criterion', () => {
    expect(() => familyOf(files, 'GD-99')).toThrow('GD-99 has no accepted criterion that could be triggered');
  });
});

describe('a search in strains', () => {
  const task: StrainTask = { files, loop: 'dryer', seed: 3, kinds: ['triggered', 'state', 'transition', 'boundary'], withWires: false, alone: true };
  /** As threads would do it, without threads. */
  const lane = (): Lane => {
    const strains = new Map<number, Strain>();
    const of = (number: number): Strain => {
      const strain = strains.get(number) ?? new Strain(task, number);
      strains.set(number, strain);
      return strain;
    };
    return {
      round: async (number, runs, received) => of(number).round(runs, received),
      ending: async (number) => of(number).ending(),
    };
  };
  const derived = (lanes: number) => searchInStrains(Array.from({ length: lanes }, lane), { runs: 120 });

  it('finds the same over any number of threads', async () => {
    const [one, two, four] = [await derived(1), await derived(2), await derived(4)];
    expect(two).toEqual(one);
    expect(four).toEqual(one);
    expect(one.documents.length).toBeGreaterThan(0);
  });

  it('hands on what one of them has found, and ends with its budget', async () => {
    const handed: Handed[] = [];
    const watched = { ...lane() };
    const { round } = watched;
    watched.round = async (number, runs, received) => {
      handed.push(...received);
      return round(number, runs, received);
    };
    const found = await searchInStrains([watched], { runs: 40 });
    expect(handed.length).toBeGreaterThan(0);
    const ended = await searchInStrains([lane()], { runs: 1_000_000, isOver: () => true });
    // One round of each, what the first received, and the runs in which cases are made small.
    expect(ended.left.length).toBeGreaterThanOrEqual(found.left.length);
    expect(strainCount).toBe(4);
  });
});
