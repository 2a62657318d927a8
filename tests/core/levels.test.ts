import { describe, expect, it } from 'vitest';
import { kindsAsked } from '@/core/coverage';
import { caseCoverage, checkProject, judgeGaps } from '@/core/project';
import { integrityLevels } from '@/core/shapes';
import { readFolder } from '@/server/folder';

describe('what a project asks its cases to touch', async () => {
  const { files } = await readFolder('tests/projects/proofer');
  const asking = (coverage: string) =>
    checkProject(files.map((one) => (one.path === 'project.yaml' ? { ...one, text: `${one.text}coverage: ${coverage}\n` } : one)));

  it('is more at a higher level of the same standard', () => {
    for (const standard of ['DO-178C', 'ISO 26262', 'IEC 61508']) {
      const own = integrityLevels.filter((one) => one.startsWith(standard)).map((one) => kindsAsked(one));
      // DO-178C counts from the top.
      const rising = standard === 'DO-178C' ? own.reverse() : own;
      rising.slice(1).forEach((kinds, index) => {
        for (const kind of rising[index]!) expect(kinds.has(kind)).toBe(true);
      });
      expect([...rising.at(-1)!]).toEqual(['states', 'transitions', 'outcomes', 'rows', 'conditions']);
    }
  });

  it('leaves out the other gaps, and says which: a loop without a case is all gaps', () => {
    const all = asking('[states]');
    expect(all.faults).toEqual([]);
    const { report, alone } = caseCoverage(all);
    expect(alone.size).toBe(0);
    const gaps = [...report.items, ...report.conditions];
    expect(gaps.every(({ gap }) => gap !== undefined)).toBe(true);
    expect(report.items.filter(({ kind }) => kind === 'state')).toHaveLength(5);
    const { unasked } = judgeGaps(all.project, report);
    expect(gaps.filter(({ id }) => !unasked.has(id)).map(({ id }) => id)).toEqual(
      report.items.filter(({ kind }) => kind === 'state').map(({ id }) => id),
    );
    expect(judgeGaps(asking('DO-178C A').project, report).unasked.size).toBe(0);
    expect(judgeGaps(asking('DO-178C D').project, report).unasked.size).toBe(gaps.length);
  });

  it('is refused where there is no such level or kind', () => {
    const told = (wrong: string): string =>
      asking(wrong)
        .faults.map(({ message }) => message)
        .join();
    expect(told('DO-178C E')).toMatch(/^"coverage" must be one of DO-178C A, .*IEC 61508 SIL 4, or a list of some of states/);
    expect(told('[states, lines]')).toMatch(/^"coverage\[1\]" must be one of \[states, transitions/);
  });
});
