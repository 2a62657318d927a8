import { drawnCourse, type Handle, handlesOf, type ScriptLine, scriptLines, withValues } from '@/core/cases';
import type { Verdict } from '@/core/criteria';
import { type Declared, numberOfValue } from '@/core/formula';
import type { AssembledLoop } from '@/core/loop';
import type { RawPiece, RawStep } from '@/core/shapes';
import type { CheckedProject } from '../check';
import type { CheckedCase } from '../checkedCase';
import { orderRun, type RunOrder, type RunResult } from '../run';

/** A free input as its lane shows it. */
export interface EditedInput {
  readonly name: string;
  readonly type: string;
  readonly unit: string;
  readonly about: string;
  readonly min?: number;
  readonly max?: number;
  readonly start: number;
  /** Names of its values 0, 1, …; its course has them as numbers. */
  readonly labels?: readonly string[];
  /** Its course as it is written; nothing where the case leaves it alone. */
  readonly pieces: readonly RawPiece[];
  readonly handles: readonly Handle[];
  /** Points [seconds, value] to be joined. */
  readonly points: readonly (readonly [number, number])[];
}

/** Something a step of a script may name. */
export interface Nameable {
  readonly name: string;
  readonly unit: string;
  readonly about: string;
  readonly kind: 'input' | 'signal' | 'state' | 'message' | 'parameter' | 'wire';
  readonly isTruth: boolean;
  /** Names of its values. */
  readonly labels?: readonly string[];
}

/** A case while it is being edited. */
export interface EditedCase {
  readonly file: string;
  readonly name: string;
  readonly about: string;
  /** Another case it takes over from. */
  readonly like?: string;
  readonly loop: string;
  readonly stopSeconds: number;
  readonly inputs: readonly EditedInput[];
  readonly script: readonly RawStep[];
  readonly scriptLines: readonly ScriptLine[];
  readonly names: readonly Nameable[];
}

/** What a criterion was shown in the run of a case. */
export interface TriggeredBy {
  readonly requirement: string;
  readonly criterion: string;
  readonly sentence: string;
  readonly verdict: Verdict;
  readonly obligations: number;
  readonly worst?: RunResult['results'][number]['obligations'][number];
}

/** A case of a document that can be read, with what is needed to run it. */
export function editedCase(
  project: CheckedProject,
  file: string,
): { readonly view: EditedCase; readonly test: CheckedCase; readonly order: RunOrder } | undefined {
  const test = project.cases.find((one) => one.document.document.file === file);
  const loop = test && project.loops.get(test.loop);
  if (!test || !loop) return undefined;
  const { raw, like } = test.document;
  return {
    test,
    order: orderRun(project, test),
    view: {
      file,
      name: raw.case,
      about: raw.about ?? '',
      ...(like === undefined ? {} : { like }),
      loop: raw.loop,
      stopSeconds: test.experiment.stopNs / 1e9,
      inputs: inputsOf(test, loop),
      script: raw.script ?? [],
      scriptLines: scriptLines(test.experiment),
      names: namesOf(loop),
    },
  };
}

function inputsOf({ experiment, document: { raw } }: CheckedCase, { plan, catalogue }: AssembledLoop): EditedInput[] {
  const courses = Object.entries(raw.stimuli ?? {});
  return plan.inputs.flatMap((input, index): EditedInput[] => {
    const slot = plan.slots[input.slot];
    if (!slot) return [];
    const { enumeration } = slot;
    const written = courses.find(([name]) => catalogue.findEntry(name, ['input'])?.slot === input.slot)?.[1] ?? [];
    const pieces = enumeration
      ? withValues(written, (value) => (typeof value === 'string' ? numberOfValue(value, enumeration) : undefined) ?? value)
      : written;
    const entry = catalogue.findEntry(input.name, ['input']);
    return [
      {
        name: input.name,
        type: slot.type,
        unit: slot.unit,
        about: entry?.about ?? '',
        ...(slot.min === undefined ? {} : { min: slot.min }),
        ...(slot.max === undefined ? {} : { max: slot.max }),
        start: slot.start,
        ...(enumeration ? { labels: enumeration.values } : {}),
        pieces,
        handles: handlesOf(pieces, experiment.stopNs / 1e9),
        points: drawnCourse(experiment, index),
      },
    ];
  });
}

const kinds = { input: 'input', output: 'signal', variable: 'signal', state: 'signal', parameter: 'parameter' } as const;

function namesOf({ catalogue, plan, wireEnds }: AssembledLoop): Nameable[] {
  const entries = catalogue.entries.flatMap((entry): Nameable[] => {
    if (entry.role === 'region' || entry.tuning === 'fixed') return [];
    return [{ name: entry.name, unit: entry.unit, about: entry.about, kind: kinds[entry.role], isTruth: entry.type === 'BOOL', ...labelsOf(entry) }];
  });
  const states = catalogue.states.map(({ name }): Nameable => ({ name, unit: '', about: 'a state of a chart', kind: 'state', isTruth: true }));
  const messages = plan.messages.map(({ name }): Nameable => ({ name, unit: '', about: 'a message', kind: 'message', isTruth: false }));
  const wires = wireEnds.map(
    (end): Nameable => ({
      name: end.name,
      unit: end.unit,
      about: 'what comes in there',
      kind: 'wire',
      isTruth: end.type === 'BOOL',
      ...labelsOf(end),
    }),
  );
  return [...states, ...entries, ...messages, ...wires];
}

function labelsOf({ enumeration }: Declared): Pick<Nameable, 'labels'> {
  return enumeration ? { labels: enumeration.values } : {};
}

/** What a run showed of the criteria, those that it triggers alone. */
export function triggeredBy(project: CheckedProject, result: RunResult): TriggeredBy[] {
  return result.results.flatMap(({ requirement, name, verdict, obligations, worst }): TriggeredBy[] => {
    if (verdict === 'none') return [];
    const sentence = project.criteria.find((one) => one.requirement === requirement && one.name === name)?.sentence ?? '';
    const owed = worst === undefined ? undefined : obligations[worst];
    return [{ requirement, criterion: name, sentence, verdict, obligations: obligations.length, ...(owed ? { worst: owed } : {}) }];
  });
}
