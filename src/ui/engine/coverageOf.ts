import type { CoverageReport } from '@/core/coverage';
import { unreachableGaps } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { inspectModel, lensOf } from '@/core/picture';
import { type CaseCoverage, type CheckedProject, caseCoverage, checkToRun, judgeGaps, logicMark } from '@/core/project';
import type { EngineTalk } from './messages';

interface Covered extends CaseCoverage {
  readonly project: CheckedProject;
}

/** The documents that were run last: who looks from drawing to drawing does not run all cases each time. */
let last: { readonly files: readonly SourceFile[]; readonly covered: Covered } | undefined;

function coveredBy(files: readonly SourceFile[]): Covered {
  const isSame = last?.files.length === files.length && last.files.every(({ path, text }, at) => path === files[at]?.path && text === files[at].text);
  if (last && isSame) return last.covered;
  const project = checkToRun(files);
  const covered = { project, ...caseCoverage(project) };
  last = { files, covered };
  return covered;
}

/** What all cases of a project together touch of its logic. */
export function coverageOf({ files }: EngineTalk['coverage']['ask']): EngineTalk['coverage']['answer'] {
  const { project, report, alone, uncounted } = coveredBy(files);
  const loops = [...project.project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
  const { justified, lapsed, unasked } = judgeGaps(project.project, report);
  const { coverage } = project.project;
  return {
    cases: project.cases.length - uncounted.length,
    uncounted: uncounted.length,
    loops,
    report,
    alone,
    justified,
    lapsed,
    unasked,
    ...(typeof coverage === 'string' ? { level: coverage } : {}),
    marks: marksOf(project, report),
    unreachable: unreachableGaps(files, report),
  };
}

/** Coverage laid over the drawing of an item. */
export function lensIn({ files, at }: EngineTalk['lens']['ask']): EngineTalk['lens']['answer'] {
  const { project, report, uncounted } = coveredBy(files);
  const { picture, outline, at: found } = inspectModel(files, at);
  const item = outline.find((one) => one.id === found);
  const lens = lensOf(report, picture, item?.kind === 'component' ? instancesOf(project, item.name) : undefined, item?.file ?? '');
  return { at: found, cases: project.cases.length - uncounted.length, lens, marks: marksOf(project, report) };
}

/** What stands for the logic of each gap today. */
function marksOf({ project }: CheckedProject, { items, conditions }: CoverageReport): ReadonlyMap<string, string> {
  return new Map([...items, ...conditions].filter(({ gap }) => gap !== undefined).map((one) => [one.id, logicMark(project, one)]));
}

/** The names under which a component is used in loops. */
function instancesOf({ project }: CheckedProject, component: string): string[] {
  const used = [...project.loops.values()].flatMap(({ raw }) => Object.entries(raw.components ?? {}));
  return [...new Set(used.flatMap(([name, { use }]) => (nameKey(use) === nameKey(component) ? [name] : [])))];
}
