import {
  type CheckedProject,
  checkProject,
  compareTraces,
  nameKey,
  orderRun,
  performRun,
  readCsvTrace,
  type SourceFile,
  type Trace,
  trustedLoop,
} from '@/core';
import type { Compared, ComparedWith, EngineTalk } from './messages';

/** Makes both runs, or one and reads the recording, and compares them; without a choice the first two cases. */
export function compareRuns({ files, first, second, settings }: EngineTalk['compare']['ask']): Compared {
  const project = checkProject(files);
  const cases = project.cases.map((one) => one.experiment.case);
  const one = cases.find((name) => name === first) ?? cases[0];
  if (one === undefined) throw new Error('There are no cases to compare yet. Add one under cases/.');
  const other = second?.k === 'case' && cases.includes(second.case) ? second.case : (cases.find((name) => name !== one) ?? one);
  const traces = [traceOf(project, one), second?.k === 'recording' ? recorded(second) : traceOf(project, other)] as const;
  return { cases, first: one, second: other, traces, comparison: compareTraces(...traces, settings) };
}

function traceOf(project: CheckedProject, name: string): Trace {
  const test = project.cases.find((one) => one.experiment.case === name);
  if (!test) throw new Error(`there is no case "${name}"`);
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
  if (!trusted) throw new Error('Nothing can be written down here: the two agree at no span of values.');
  return trusted;
}
