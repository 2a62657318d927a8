import { describe, expect, it } from 'vitest';
import { Coverage, touchedIn } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import { checkProject, judgeGaps, logicMark, withJustification } from '@/core/project';
import { simulate } from '@/core/simulate';

const valve = (limit: string): string =>
  `component: Valve\ninputs: { go: { type: BOOL } }\noutputs: { open: { type: BOOL } }\nbehaviour: { kind: chart, period: 1 s, regions: { m: { initial: Shut, states: { Shut: { go: [{ to: Open, when: go }] }, Open: { entry: "open := TRUE;", go: [{ to: Shut, after: ${limit} }] } } } } }\n`;
const files = (limit = '10 s', ...more: SourceFile[]): SourceFile[] => [
  { path: 'project.yaml', text: 'project: Valve\n' },
  { path: 'components/v.yaml', text: valve(limit) },
  {
    path: 'loops/l.yaml',
    text: 'loop: l\ncomponents: { v: { use: Valve } }\ninputs: { go: { to: v.go } }\nunused: [v.open]\nsolver: { method: euler, step: 1 s }\nstop: 5 s\n',
  },
  { path: 'cases/c.yaml', text: 'case: c\nloop: l\n' },
  ...more,
];
const written = (text: string): SourceFile => ({ path: 'coverage.yaml', text });

function judged(all: readonly SourceFile[]) {
  const { project, cases, faults } = checkProject(all);
  expect(faults).toEqual([]);
  const coverage = new Coverage();
  for (const { experiment } of cases) coverage.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })));
  const report = coverage.report();
  return { project, report, ...judgeGaps(project, report) };
}

describe('justified gaps', () => {
  const { project, report } = judged(files());
  const gap = report.items.find((one) => one.words === 'v.m.Open')!;
  const entry = { part: gap.id, reason: 'It is opened by hand.', by: 'us', on: '2026-11-30', logic: logicMark(project, gap) };
  const text = withJustification('', entry)!;

  it('count while the logic is what it was, and lapse when it changes', () => {
    expect(gap.gap).toBe('It was never entered.');
    expect([...judged(files('10 s', written(text))).justified]).toEqual([[gap.id, entry]]);
    // Text beside the logic changes nothing.
    expect(
      judged([
        ...files('10 s', written(text)).map((one) => ({
          ...one,
          text: one.text.replace('component: Valve\n', 'component: Valve\nabout: A valve.\n'),
        })),
      ]).justified.size,
    ).toBe(1);
    const later = judged(files('12 s', written(text)));
    expect([later.justified.size, [...later.lapsed.keys()]]).toEqual([0, [gap.id]]);
  });

  it('are idle where the part was touched after all, or is not there', () => {
    const open = { path: 'cases/c.yaml', text: 'case: c\nloop: l\nstimuli: { go: [{ hold: TRUE }] }\n' };
    const touched = judged([...files('10 s', written(text)).filter(({ path }) => path !== open.path), open]);
    expect(touched.idle).toEqual([entry]);
    const unknown = withJustification(text, { ...entry, part: 'state l v.m.Gone' })!;
    expect(judged(files('10 s', written(unknown))).idle.map((one) => one.part)).toEqual(['state l v.m.Gone']);
  });

  it('are written one below the other, each part once, and whatever stands there stays', () => {
    const noted = `# Looked through in November.\n${text}`;
    const again = withJustification(noted, { ...entry, reason: 'Another reason.' })!;
    expect(again).toMatch(/^# Looked through in November\./);
    expect(checkProject(files('10 s', written(again))).project.justified).toEqual([{ ...entry, reason: 'Another reason.' }]);
    const two = withJustification(again, { ...entry, part: 'other' })!;
    expect(checkProject(files('10 s', written(two))).project.justified.map((one) => one.part)).toEqual([gap.id, 'other']);
    expect(withJustification('justified: [', entry)).toBeUndefined();
  });

  it('without a reason are told as faults', () => {
    const { faults } = checkProject(files('10 s', written('justified: [{ part: x, by: us, on: 2026-11-30, logic: y }]\n')));
    expect(faults.map((one) => one.message)).toEqual(['"justified[0].reason" is required.']);
  });
});
