import type { SourceFile } from '@/core/documents';
import { Previewer, whyNot } from '@/core/explain';
import { nameKey } from '@/core/language';
import { inspectModel, wireEqualNames } from '@/core/picture';
import { type CheckedProject, checkToRun, orderRun, performRun } from '@/core/project';
import { Reader, termsOf } from '@/core/reading';
import { definitionAt, gatherParts, renameAt } from '@/core/refactor';
import { bringIn, editRequirement, inspectRequirements, meaningOf, takeIn } from '@/core/requirements';
import type { Trace } from '@/core/trace';
import { adoptSetting, SolverTrial, trialGrid } from '@/core/trial';
import { replaceScalar } from '@/core/yaml';
import { caseOfRunIn, composeIn, openCampaign, responsesOf } from './campaignRuns';
import { caseIn } from './caseRun';
import { compareRuns, trustIn } from './compareRuns';
import { coverageOf, lensIn } from './coverageOf';
import { familyIn, findCaseIn } from './findCase';
import type { EngineAnswer, EngineKind, EngineRequest, EngineTalk } from './messages';
import { fitChoices, fitOf, linearOf, probeOf } from './plantQuestions';

/** The browser's engine: the same checks, plan and executive as everywhere, in a worker of its own. */
const scope = self as unknown as {
  onmessage: ((event: MessageEvent<EngineRequest>) => void) | null;
  postMessage(answer: EngineAnswer, transfer?: Transferable[]): void;
};

/** What is being solved in many ways, and the document of its loop. */
let tried: { readonly trial: SolverTrial; readonly file: SourceFile | undefined } | undefined;

/** Those of the loop itself: in a variant another plant has other states. */
function casesOf(project: CheckedProject, loop: string): CheckedProject['cases'] {
  return project.cases.filter((one) => nameKey(one.loop) === nameKey(loop) && one.document.raw.variant === undefined);
}

function triedNow(): NonNullable<typeof tried> {
  if (!tried) throw new Error('no case has been made ready yet');
  return tried;
}

type Handlers = { readonly [K in EngineKind]: (ask: EngineTalk[K]['ask']) => EngineTalk[K]['answer'] };

/** The project whose requirements were read last, with what has been made for it. */
let open: { readonly checked: CheckedProject; readonly reader: Reader; readonly previewer: Previewer } | undefined;

function opened(): NonNullable<typeof open> {
  if (!open) throw new Error('no project has been read yet');
  return open;
}

const handlers: Handlers = {
  run: ({ order }) => performRun(order),
  why: ({ order, transition }) => whyNot(order.experiment, transition),
  inspect: ({ files, at }) => inspectModel(files, at),
  define: ({ files, file, offset }) => {
    const place = definitionAt(files, file, offset);
    return place && { file: place.file, line: place.line, column: place.column };
  },
  rename: ({ files, file, offset, to }) => renameAt(files, file, offset, to),
  gather: ({ files, component, parts, name }) => gatherParts(files, component, parts, name),
  wire: ({ files, loop }) => wireEqualNames(files, loop),
  replace: ({ text, path, value }) => replaceScalar(text, path, value),
  requirements: ({ files }) => {
    const { view, checked } = inspectRequirements(files);
    const catalogues = [...checked.loops.values()].map((loop) => loop.catalogue);
    open = { checked, reader: new Reader(termsOf(catalogues), checked.project.words), previewer: new Previewer(checked) };
    return view;
  },
  readings: ({ texts }) => texts.map((text) => opened().reader.read(text)),
  meaning: ({ sentence }) =>
    meaningOf(
      sentence,
      [...opened().checked.loops.values()].map((loop) => loop.catalogue),
    ),
  preview: ({ sentence, on }) => opened().previewer.preview(sentence, on),
  trial: ({ files, case: name, loop }) => {
    const project = checkToRun(files);
    const cases = project.cases.map((one) => one.experiment.case);
    const loops = [...project.project.loops.values()].map(({ raw }) => ({ loop: raw.loop, cases: casesOf(project, raw.loop).length }));
    const ofLoop = loop === undefined ? [] : casesOf(project, loop);
    const single = project.cases.find((one) => one.experiment.case === name) ?? project.cases[0];
    const [first, ...others] = ofLoop.length > 0 ? ofLoop : single ? [single] : [];
    if (!first) return { cases, loops, settings: [] };
    const orders = [first, ...others].map((test) => orderRun(project, test));
    const document = project.project.loops.get(nameKey(first.loop))?.document;
    tried = { trial: new SolverTrial(orders), file: files.find((one) => one.path === document?.file) };
    const of = ofLoop.length > 0 && loop !== undefined ? { loop } : { case: first.experiment.case };
    return { cases, loops, of, settings: trialGrid((orders[0] as (typeof orders)[0]).experiment.plan) };
  },
  'trial point': ({ setting }) => triedNow().trial.point(setting),
  'adopt setting': ({ setting }) => {
    const { file } = triedNow();
    if (!file) throw new Error('the document of this loop is not there');
    return { path: file.path, text: adoptSetting(file.text, setting) };
  },
  compare: compareRuns,
  trust: trustIn,
  linear: linearOf,
  probe: probeOf,
  'fit choices': fitChoices,
  fit: fitOf,
  'edit case': caseIn,
  'find case': findCaseIn,
  family: familyIn,
  coverage: coverageOf,
  lens: lensIn,
  compose: composeIn,
  campaign: openCampaign,
  responses: responsesOf,
  'case of run': caseOfRunIn,
  'bring in': ({ files, brought }) => bringIn(files, brought),
  'take in': ({ files, differences }) => takeIn(files, differences),
  'edit requirement': ({ text, path, changes }) =>
    changes.reduce<string | undefined>((now, change) => (now === undefined ? undefined : editRequirement(now, path, change)), text),
};

scope.onmessage = ({ data: { id, k, ask } }) => {
  try {
    const value = handlers[k](ask as never) as EngineTalk[EngineKind]['answer'];
    scope.postMessage({ id, value }, buffersOf(value));
  } catch (problem) {
    scope.postMessage({ id, problem: problem instanceof Error ? problem.message : String(problem) });
  }
};

/** A trace's memory goes to the page instead of being copied. */
function buffersOf(value: EngineTalk[EngineKind]['answer']): Transferable[] {
  const parts = tracesIn(value).flatMap((trace) => [...trace.bases, ...trace.columns.map((column) => column.data)]);
  return [...new Set(parts.map((part) => part.buffer as ArrayBuffer))];
}

function tracesIn(value: EngineTalk[EngineKind]['answer']): readonly Trace[] {
  if (typeof value !== 'object' || value === null) return [];
  if ('others' in value) return [value.trace, ...value.others.map(({ trace }) => trace)];
  if ('trace' in value) return [value.trace];
  if ('run' in value) return value.run ? [value.run.trace] : [];
  return 'shown' in value ? [value.shown.trace] : [];
}
