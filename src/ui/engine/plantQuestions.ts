import { probe, probeWords } from '@/core/compare';
import { fitParameters } from '@/core/fit';
import { readCsvTrace } from '@/core/formats';
import { linearView } from '@/core/linear';
import { type CheckedProject, checkToRun } from '@/core/project';
import type { Trace } from '@/core/trace';
import type { EngineTalk } from './messages';

/** The continuous part of a case's loop about a point; the first case without a choice. */
export function linearOf({ files, case: name, question }: EngineTalk['linear']['ask']): EngineTalk['linear']['answer'] {
  const project = checkToRun(files);
  const test = caseIn(project, name);
  const stop = test.experiment.stopNs / 1e9;
  return {
    cases: namesOf(project),
    of: test.experiment.case,
    stop,
    answer: linearView(test.experiment, { ...question, at: Math.min(question.at, stop) }),
  };
}

/** A case with one of its free inputs pushed; its first one without a choice. */
export function probeOf({ files, case: name, input, at, by }: EngineTalk['probe']['ask']): EngineTalk['probe']['answer'] {
  const project = checkToRun(files);
  const { experiment } = caseIn(project, name);
  const { inputs, slots } = experiment.plan;
  const index = Math.max(
    0,
    inputs.findIndex((one) => one.name === input),
  );
  const pushed = inputs[index];
  if (!pushed) throw new Error(`The loop ${experiment.plan.loop} has no free input to push. Declare one under inputs: of the loop.`);
  const push = { input: index, at, by };
  const found = probe(experiment, push);
  return {
    cases: namesOf(project),
    of: experiment.case,
    stop: experiment.stopNs / 1e9,
    inputs: inputs.map(({ name: of, slot }) => ({ name: of, unit: slots[slot]?.unit ?? '', isTruth: slots[slot]?.type === 'BOOL' })),
    input: pushed.name,
    words: probeWords(pushed.name, push, found),
    found,
  };
}

/** What may be fitted: parameters with limits, and the recorded signals that the loop has. */
export function fitChoices({ files, case: name, recording }: EngineTalk['fit choices']['ask']): EngineTalk['fit choices']['answer'] {
  const project = checkToRun(files);
  const test = caseIn(project, name);
  const loop = project.loops.get(test.loop);
  const trace = recording === undefined ? undefined : recorded(recording);
  const entries = loop?.catalogue.entries ?? [];
  const known = new Set(entries.map((entry) => entry.name.toLowerCase()));
  return {
    cases: namesOf(project),
    of: test.experiment.case,
    recordings: [...project.project.recordings.keys()],
    parameters: entries
      .filter((entry) => entry.role === 'parameter' && entry.type === 'LREAL' && entry.min !== undefined && entry.max !== undefined)
      .map(({ name: of, about, unit }) => ({ name: of, about, unit })),
    signals: (trace?.columns ?? []).filter((column) => column.type === 'LREAL' && known.has(column.name.toLowerCase())).map((column) => column.name),
  };
}

/** Fits parameters of a case's loop to a recording. */
export function fitOf({ files, case: name, recording, holdOut, signals, parameters }: EngineTalk['fit']['ask']): EngineTalk['fit']['answer'] {
  const project = checkToRun(files);
  const test = caseIn(project, name);
  const catalogue = project.loops.get(test.loop)?.catalogue;
  const overrides = new Map(test.experiment.overrides);
  return fitParameters({
    experiment: test.experiment,
    recording: recorded(recording),
    ...(holdOut === undefined ? {} : { holdOut: recorded(holdOut) }),
    signals,
    parameters: parameters.flatMap((one) => {
      const entry = catalogue?.findEntry(one, ['parameter']);
      if (!entry || entry.min === undefined || entry.max === undefined) return [];
      const start = overrides.get(entry.slot) ?? test.experiment.plan.slots[entry.slot]?.start ?? 0;
      return [{ name: entry.name, unit: entry.unit, slot: entry.slot, start, min: entry.min, max: entry.max }];
    }),
  });
}

function namesOf(project: CheckedProject): string[] {
  return project.cases.map((one) => one.experiment.case);
}

function caseIn(project: CheckedProject, name: string | undefined): CheckedProject['cases'][number] {
  const test = project.cases.find((one) => one.experiment.case === name) ?? project.cases[0];
  if (!test) throw new Error('There are no cases yet. Add one under cases/.');
  return test;
}

function recorded(text: string): Trace {
  const read = readCsvTrace(text);
  if ('problem' in read) throw new Error(`The recording cannot be read: line ${read.line}: ${read.problem}`);
  return read.trace;
}
