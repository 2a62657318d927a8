import { describe, expect, it } from 'vitest';
import { Coverage, touchedIn } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import { inspectModel, lensOf, type RegionPicture } from '@/core/picture';
import { checkProject } from '@/core/project';
import { simulate } from '@/core/simulate';
import { readFolder } from '@/server/folder';

function reportOf(files: readonly SourceFile[]) {
  const coverage = new Coverage();
  for (const { experiment } of checkProject(files).cases)
    coverage.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })));
  return coverage.report();
}

describe('coverage over a drawing', async () => {
  const { files } = await readFolder('demo/tarn-lock');
  const report = reportOf(files);
  const at = inspectModel(files, '').outline.find((one) => one.name === 'LockSupervisor')!.id;
  const view = inspectModel(files, at);
  const item = view.outline.find((one) => one.id === view.at)!;
  const lens = lensOf(report, view.picture, ['supervisor'], item.file);
  if (view.picture.k !== 'chart') throw new Error('it is a chart');
  const regions: RegionPicture[] = [];
  const gather = (region: RegionPicture): void => {
    regions.push(region);
    for (const state of region.states) for (const inner of state.regions) gather(inner);
  };
  for (const region of view.picture.regions) gather(region);

  it('tells of every state what the coverage tells', () => {
    const states = regions.flatMap((region) => region.states);
    expect(lens.states.size).toBe(states.length);
    for (const { id } of states) {
      const own = report.items.find(({ kind, words }) => kind === 'state' && words === `supervisor.${id}`)!;
      expect(lens.states.get(id)).toMatchObject({ count: own.count, parts: [{ id: own.id, loop: 'lock' }] });
    }
  });

  it('tells of every transition how often it was taken: the arrow has its source, its target and its guard', () => {
    const arrows = regions.flatMap((region) => region.arrows.map((arrow, index) => ({ arrow, seen: lens.arrows.get(`${region.id}#${index}`) })));
    expect(arrows.every(({ seen }) => seen !== undefined)).toBe(true);
    for (const { arrow, seen } of arrows) {
      const item = report.items.find(({ id }) => id === seen!.parts[0]!.id)!;
      expect(item.source).toBe(`supervisor.${arrow.from}`);
      expect(arrow.to.endsWith(item.to!)).toBe(true);
      expect(seen!.count).toBe(item.count);
      expect(seen!.gap).toBe(item.gap);
    }
    // Each transition of the chart has its arrow.
    const transitions = report.items.filter(({ kind, to }) => kind === 'transition' && to !== '');
    expect(new Set(arrows.map(({ seen }) => seen!.parts[0]!.id)).size).toBe(transitions.length);
  });

  it('stands beside the lines of the text on which the transitions are written', () => {
    const text = files.find(({ path }) => path === item.file)!.text.split('\n');
    expect(lens.lines.length).toBeGreaterThan(0);
    for (const { line, short, isMissing } of lens.lines) {
      expect(text[line - 1]).toMatch(/to:|IF|WHILE|when|do:/);
      if (short === 'never') expect(isMissing).toBe(true);
    }
  });

  it('sums up on the slips of a loop what is behind them', () => {
    const loop = inspectModel(files, 'loop:lock');
    const { slips } = lensOf(report, loop.picture, undefined, 'loops/lock.yaml');
    const own = [...report.items, ...report.conditions].filter(({ component }) => component === 'supervisor' || component.startsWith('supervisor.'));
    expect(slips.get('supervisor')).toEqual({ of: own.length, touched: own.filter(({ gap }) => gap === undefined).length });
    expect(slips.has('chamber')).toBe(false);
  });
});

describe('a component that is used twice', () => {
  const files: SourceFile[] = Object.entries({
    'project.yaml': 'project: Two\n',
    'components/v.yaml':
      'component: V\ninputs: { go: { type: BOOL } }\noutputs: { open: { type: BOOL } }\nbehaviour: { kind: chart, period: 1 s, regions: { m: { initial: Shut, states: { Shut: { go: [{ to: Open, when: go }, { to: Shut, after: 3 s }] }, Open: { entry: "open := TRUE;" } } } } }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { a: { use: V }, b: { use: V } }\ninputs: { go: { to: a.go }, other: { to: b.go } }\nunused: [a.open, b.open]\nsolver: { method: euler, step: 1 s }\nstop: 10 s\n',
    'cases/c.yaml': 'case: c\nloop: l\nstimuli: { go: [{ step: TRUE, at: 5 s }] }\n',
  }).map(([path, text]) => ({ path, text }));

  it('has done what it did in either place', () => {
    const view = inspectModel(files, 'component:V');
    const lens = lensOf(reportOf(files), view.picture, ['a', 'b'], 'components/v.yaml');
    expect(lens.states.get('m.Open')).toMatchObject({ count: 1, parts: [{ loop: 'l' }, { loop: 'l' }] });
    expect(lens.states.get('m.Open')!.gap).toBeUndefined();
    expect(lens.arrows.get('m#0')!.count).toBe(1);
    expect(lens.arrows.get('m#1')!.count).toBeGreaterThan(1);
  });
});
