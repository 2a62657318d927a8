import { type CompareSettings, compareTraces, trustedLoop } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { readCsvTrace } from '@/core/formats';
import { nameKey } from '@/core/language';
import { type CheckedCase, type CheckedProject, caseOnVariant, checkProject, checkToRun, orderRun, performRun } from '@/core/project';
import type { Trace } from '@/core/trace';
import { lookedAt } from './campaignRuns';
import type { Compared, ComparedWith, EngineTalk } from './messages';

/** Makes both runs, or one and reads the recording, and compares them; without a choice the first two cases. */
export function compareRuns({ files, first, second, settings }: EngineTalk['compare']['ask']): Compared {
  if (second?.k === 'campaign run') return comparedWithNominal(second, settings);
  const project = checkToRun(files);
  const { cases } = project;
  const one = cases.find((test) => test.experiment.case === first) ?? cases[0];
  if (!one) throw new Error('There are no cases to compare yet. Add one under cases/.');
  const variants = Object.keys(project.project.loops.get(nameKey(one.document.raw.loop))?.raw.variants ?? {});
  const [name, other] = otherTrace(project, one, second, variants);
  const traces = [traceOf(project, one), other] as const;
  return {
    cases: cases.map((test) => test.experiment.case),
    variants,
    first: one.experiment.case,
    second: name,
    traces,
    comparison: compareTraces(...traces, settings),
  };
}

/** A run of a campaign against its case as the documents of the campaign have it. */
function comparedWithNominal({ document, run }: ComparedWith & { k: 'campaign run' }, settings: CompareSettings): Compared {
  const { laid } = lookedAt();
  const found = laid.runOf(run);
  if ('faults' in found) throw new Error(found.faults[0]?.message ?? `There is no run ${run}.`);
  const nominal = laid.nominalOrder(run);
  const traces = [performRun(nominal).trace, performRun(found.order).trace] as const;
  const first = nominal.experiment.case;
  return { cases: [first], variants: [], first, second: `${document}, run ${run}`, traces, comparison: compareTraces(...traces, settings) };
}

function otherTrace(
  project: CheckedProject,
  one: CheckedCase,
  second: ComparedWith | undefined,
  variants: readonly string[],
): readonly [string, Trace] {
  if (second?.k === 'recording') return ['', recorded(second)];
  if (second?.k === 'variant' && variants.includes(second.variant))
    return [second.variant, traceOf(project, caseOnVariant(project, one, second.variant))];
  const wanted = second?.k === 'case' ? project.cases.find((test) => test.experiment.case === second.case) : undefined;
  const test = wanted ?? project.cases.find((each) => each !== one) ?? one;
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
