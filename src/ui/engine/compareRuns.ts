import { type CompareSettings, compareTraces, trustedLoop } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { readCsvTrace } from '@/core/formats';
import { nameKey } from '@/core/language';
import { type CheckedCase, type CheckedProject, caseOnVariant, checkProject, checkToRun, orderRun, performRun } from '@/core/project';
import type { Trace } from '@/core/trace';
import { lookedAt } from './campaignRuns';
import type { Compared, ComparedTrace, ComparedWith, EngineTalk } from './messages';

/** Makes the runs, reads the recordings, and compares each with the first; without a choice the first two cases. */
export function compareRuns({ files, first, others, settings }: EngineTalk['compare']['ask']): Compared {
  const [runs, rest] = [others.filter((one) => one.k === 'campaign run'), others.filter((one) => one.k !== 'campaign run')];
  if (runs[0]) return comparedWithNominal([runs[0], ...runs.slice(1)], rest, settings);
  const project = checkToRun(files);
  const { cases } = project;
  const one = cases.find((test) => test.experiment.case === first) ?? cases[0];
  if (!one) throw new Error('There are no cases to compare yet. Add one under cases/.');
  const next = cases.find((test) => test !== one) ?? one;
  const trace = traceOf(project, one);
  const wanted: readonly ProjectTrace[] = rest.length > 0 ? rest : [{ k: 'case', case: next.experiment.case }];
  return {
    cases: cases.map((test) => test.experiment.case),
    variants: variantsOf(project, one),
    first: one.experiment.case,
    trace,
    others: wanted.map((other) => against(trace, otherTrace(project, one, other), settings)),
  };
}

type CampaignRun = ComparedWith & { readonly k: 'campaign run' };
type ProjectTrace = Exclude<ComparedWith, CampaignRun>;

function against(first: Trace, [name, trace]: readonly [string, Trace], settings: CompareSettings): ComparedTrace {
  return { name, trace, comparison: compareTraces(first, trace, settings) };
}

/** Runs of a campaign against their case as the documents of the campaign have it, and recordings beside them. */
function comparedWithNominal(runs: readonly [CampaignRun, ...CampaignRun[]], rest: readonly ProjectTrace[], settings: CompareSettings): Compared {
  const { laid } = lookedAt();
  const nominal = laid.nominalOrder(runs[0].run);
  const trace = performRun(nominal).trace;
  const traceOfRun = ({ document, run }: CampaignRun): readonly [string, Trace] => {
    const found = laid.runOf(run);
    if ('faults' in found) throw new Error(found.faults[0]?.message ?? `There is no run ${run}.`);
    return [`${document}, run ${run}`, performRun(found.order).trace];
  };
  const recordings = rest.flatMap((one) => (one.k === 'recording' ? [['', recorded(one)] as const] : []));
  const first = nominal.experiment.case;
  return {
    cases: [first],
    variants: [],
    first,
    trace,
    others: [...runs.map(traceOfRun), ...recordings].map((other) => against(trace, other, settings)),
  };
}

function variantsOf({ project }: CheckedProject, test: CheckedCase): string[] {
  return Object.keys(project.loops.get(nameKey(test.document.raw.loop))?.raw.variants ?? {});
}

function otherTrace(project: CheckedProject, one: CheckedCase, other: ProjectTrace): readonly [string, Trace] {
  if (other.k === 'recording') return ['', recorded(other)];
  if (other.k === 'variant') {
    if (!variantsOf(project, one).includes(other.variant))
      throw new Error(`The loop of ${one.experiment.case} has no plant called ${other.variant}.`);
    return [other.variant, traceOf(project, caseOnVariant(project, one, other.variant))];
  }
  const test = project.cases.find((each) => each.experiment.case === other.case);
  if (!test) throw new Error(`There is no case called “${other.case}”. It may have been renamed.`);
  return [test.experiment.case, traceOf(project, test)];
}

function traceOf(project: CheckedProject, test: CheckedCase): Trace {
  return performRun(orderRun(project, test)).trace;
}

function recorded({ text }: ComparedWith & { k: 'recording' }): Trace {
  const read = readCsvTrace(text);
  if ('problem' in read) throw new Error(`The recording cannot be read: line ${read.line}: ${read.problem}`);
  return read.trace;
}

/** Writes down where the plant of a case's loop agrees with what it was compared with. */
export function trustIn({ files, case: name, signal, because }: EngineTalk['trust']['ask']): SourceFile {
  const project = checkProject(files);
  const test = project.cases.find((one) => one.experiment.case === name);
  const path = test && project.project.loops.get(nameKey(test.document.raw.loop))?.document.file;
  const loop = files.find((file) => file.path === path);
  const trusted = loop && trustedLoop(loop, signal, because);
  if (!trusted) throw new Error('There is nothing to write down: the two agree over no range of values.');
  return trusted;
}
