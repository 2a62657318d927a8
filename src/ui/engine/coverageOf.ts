import { Coverage, type CoverageReport, touchedIn } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { inspectModel, lensOf } from '@/core/picture';
import { type CheckedProject, checkProject, judgeGaps, logicMark } from '@/core/project';
import { recycleTrace, simulate } from '@/core/simulate';
import type { EngineTalk } from './messages';

/** What all cases of a project together touch of its logic, and parts that one case touches alone. */
interface Covered {
  readonly project: CheckedProject;
  readonly report: CoverageReport;
  /** By the id of the part, the case. */
  readonly alone: ReadonlyMap<string, string>;
}

/** The documents that were run last: who looks from drawing to drawing does not run all cases each time. */
let last: { readonly files: readonly SourceFile[]; readonly covered: Covered } | undefined;

function coveredBy(files: readonly SourceFile[]): Covered {
  const isSame = last?.files.length === files.length && last.files.every(({ path, text }, at) => path === files[at]?.path && text === files[at].text);
  if (!last || !isSame) last = { files, covered: runAll(checkProject(files)) };
  return last.covered;
}

function runAll(project: CheckedProject): Covered {
  const coverage = new Coverage();
  const touchedBy = new Map<string, string[]>();
  for (const { experiment } of project.cases) {
    const outcome = simulate({ ...experiment, coverage: true });
    const touched = touchedIn(experiment.plan, outcome);
    coverage.add(experiment.plan, touched);
    const own = new Coverage();
    own.add(experiment.plan, touched);
    for (const { id, gap } of [...own.report().items, ...own.report().conditions])
      if (gap === undefined) touchedBy.set(id, [...(touchedBy.get(id) ?? []), experiment.case]);
    recycleTrace(outcome.trace);
  }
  const alone = new Map([...touchedBy].flatMap(([id, cases]) => (cases.length === 1 && cases[0] !== undefined ? [[id, cases[0]] as const] : [])));
  return { project, report: coverage.report(), alone };
}

export function coverageOf({ files }: EngineTalk['coverage']['ask']): EngineTalk['coverage']['answer'] {
  const { project, report, alone } = coveredBy(files);
  const loops = [...project.project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
  const { justified, lapsed } = judgeGaps(project.project, report);
  return { cases: project.cases.length, loops, report, alone, justified, lapsed, marks: marksOf(project, report) };
}

/** Coverage laid over the drawing of an item. */
export function lensIn({ files, at }: EngineTalk['lens']['ask']): EngineTalk['lens']['answer'] {
  const { project, report } = coveredBy(files);
  const { picture, outline, at: found } = inspectModel(files, at);
  const item = outline.find((one) => one.id === found);
  const lens = lensOf(report, picture, item?.kind === 'component' ? instancesOf(project, item.name) : undefined, item?.file ?? '');
  return { at: found, cases: project.cases.length, lens, marks: marksOf(project, report) };
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
