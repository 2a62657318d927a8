import { withRecorded } from '@/core/cases';
import { type Criterion, criterionSlots } from '@/core/criteria';
import { composeDesk, type DeskMessage, type DeskOrder, type DeskSignal, deskSignals, freeMessages, loopKeyOf, signalNamed } from '@/core/desk';
import type { LoopDocument, ParameterSetDocument } from '@/core/documents';
import { Faults } from '@/core/fault';
import { readValue } from '@/core/formula';
import { nameKey } from '@/core/language';
import { type AssembledLoop, aloneLoop, assembleLoop } from '@/core/loop';
import type { Plan } from '@/core/plan';
import type { DeskButton, DeskItem, RawDesk, SceneMove } from '@/core/shapes';
import type { Experiment } from '@/core/simulate';
import type { CheckedProject } from './check';
import type { CheckedCase } from './checkedCase';
import { whyNotRun } from './soundModel';

/** What a desk is opened for: one that was kept, some requirements, or one component alone; with nothing said, the first desk or loop there is. */
export interface DeskChoice {
  readonly desk?: string;
  /** A loop, or `loop/variant`. */
  readonly loop?: string;
  readonly requirements?: readonly string[];
  readonly component?: string;
  /** A case whose parameters and start values count. */
  readonly startFrom?: string;
}

/** A criterion on a desk. */
export interface DeskCriterion {
  readonly requirement: string;
  readonly name: string;
  readonly sentence: string;
  readonly criterion: Criterion;
}

/** A scene with its signals bound. */
export interface OpenedScene {
  readonly name: string;
  readonly svg: string;
  readonly moves: readonly (SceneMove & { readonly slot: number; readonly span: readonly [number, number] })[];
}

/** A parameter set that can be taken over. */
export interface OfferedSet {
  readonly name: string;
  readonly about: string;
  readonly values: readonly (readonly [slot: number, value: number])[];
}

/** A desk as the page shows it. */
export interface OpenedDesk {
  readonly name: string;
  readonly about: string;
  /** The document it comes from. */
  readonly file?: string;
  readonly loop: string;
  /** The document of the loop, and the parameter sets it takes. */
  readonly loopFile: string;
  readonly loopSets: readonly string[];
  readonly variant?: string;
  readonly component?: string;
  readonly startFrom?: string;
  readonly requirements: readonly string[];
  readonly signals: readonly DeskSignal[];
  readonly items: readonly DeskItem[];
  readonly buttons: readonly DeskButton[];
  /** Messages that people may send, and no button sends yet. */
  readonly messages: readonly DeskMessage[];
  readonly criteria: readonly DeskCriterion[];
  readonly scene?: OpenedScene;
  readonly stepNs: number;
  /** What else could be opened. */
  readonly others: {
    readonly desks: readonly string[];
    readonly loops: readonly string[];
    readonly components: readonly string[];
    readonly cases: readonly string[];
    /** Parameter sets whose names this loop has, with the values of its slots. */
    readonly sets: readonly OfferedSet[];
    readonly requirements: readonly { readonly id: string; readonly text: string }[];
  };
}

/** A desk with what its run and its takes need. */
export interface DeskInUse {
  readonly view: OpenedDesk;
  readonly order: DeskOrder;
  readonly loop: LoopDocument;
  readonly assembled: AssembledLoop;
}

/** Longest session: as long as times are whole nanoseconds. The memory its exact rows may take. */
const longestNs = 100 * 86_400e9;
const mostBytes = 400e6;

/** Opens a desk, or says in words why not. */
export function openDesk(checked: CheckedProject, choice: DeskChoice): DeskInUse | string {
  const why = whyNotRun(checked);
  if (why !== undefined) return why;
  const { project } = checked;
  const kept = choice.desk === undefined ? undefined : project.desks.get(nameKey(choice.desk));
  if (choice.desk !== undefined && !kept) return `There is no desk "${choice.desk}" in this project, or its document has faults.`;
  const first = choice.loop === undefined && choice.component === undefined && !kept ? [...project.desks.values()][0] : undefined;
  const raw = kept?.raw ?? (choice.requirements === undefined ? first?.raw : undefined);
  const found = choice.component === undefined ? loopOf(checked, raw, choice.loop) : aloneOf(checked, choice.component);
  if (typeof found === 'string') return found;
  const { assembled, loop, key } = found;
  const startFrom = choice.startFrom ?? raw?.start_from;
  const test =
    startFrom === undefined ? undefined : checked.cases.find((one) => nameKey(one.experiment.case) === nameKey(startFrom) && one.loop === key);
  if (startFrom !== undefined && !test) return `There is no case "${startFrom}" of the loop ${assembled.plan.loop}.`;
  const criteria = checked.criteria.flatMap(({ requirement, name, sentence, acceptedBy, inLoop }): DeskCriterion[] => {
    const criterion = acceptedBy === undefined ? undefined : inLoop.get(key);
    return criterion ? [{ requirement, name, sentence, criterion }] : [];
  });
  const wanted = new Set((choice.requirements ?? raw?.requirements ?? []).map(nameKey));
  const watched = criteria.filter((one) => wanted.has(nameKey(one.requirement)));
  const signals = deskSignals(assembled, loop);
  const [loopName = '', variant] = assembled.plan.loop.split('/');
  const scene = sceneOf(checked, loopName, assembled);
  // A parameter in a criterion may be changed by hand: it is judged with the value it had at each instant.
  const read = criteria.flatMap((one) => criterionSlots(one.criterion)).filter((slot) => assembled.plan.parameters.includes(slot));
  const experiment = experimentOf(raw?.desk ?? 'desk', withRecorded(assembled.plan, read), test);
  const view: OpenedDesk = {
    name: raw?.desk ?? '',
    about: raw?.about ?? '',
    ...(raw ? { file: [...project.desks.values()].find((one) => one.raw === raw)?.document.file ?? '' } : {}),
    loop: loopName,
    loopFile: loop.document.file,
    loopSets: loop.raw.parameter_sets ?? [],
    ...(variant === undefined ? {} : { variant }),
    ...(choice.component === undefined ? {} : { component: choice.component }),
    ...(startFrom === undefined ? {} : { startFrom }),
    requirements: [...new Set(watched.map((one) => one.requirement))],
    signals,
    items: raw
      ? fullNames(raw.items, assembled)
      : composeDesk(
          signals,
          watched.map((one) => one.criterion),
          choice.component === undefined ? undefined : loopName,
        ),
    buttons: raw?.buttons ?? [],
    messages: unsent(freeMessages(assembled, loop, project), raw?.buttons ?? []),
    criteria: watched,
    ...(scene && choice.component === undefined ? { scene } : {}),
    stepNs: assembled.plan.solver.stepNs,
    others: othersOf(checked, key, criteria, signals),
  };
  return { view, order: { experiment, watched, exactRows: exactRows(assembled.plan) }, loop, assembled };
}

/** Messages that no button sends. */
function unsent(messages: readonly DeskMessage[], buttons: readonly DeskButton[]): DeskMessage[] {
  const sent = new Set(buttons.flatMap((button) => button.do.flatMap((step) => ('send' in step ? [nameKey(step.send)] : []))));
  return messages.filter(({ name }) => !sent.has(nameKey(name)));
}

/** A run without an end, from the parameters and start values of a case. */
function experimentOf(name: string, plan: Plan, test: CheckedCase | undefined): Experiment {
  return {
    case: name,
    plan,
    stopNs: longestNs,
    seed: test?.experiment.seed ?? 0,
    overrides: test?.experiment.overrides ?? [],
    initial: test?.experiment.initial ?? [],
    stimuli: [],
    script: [],
    conditions: [],
  };
}

/** What else there is to choose from. */
function othersOf(checked: CheckedProject, key: string, criteria: readonly DeskCriterion[], signals: readonly DeskSignal[]): OpenedDesk['others'] {
  const { project } = checked;
  return {
    desks: [...project.desks.values()].map((one) => one.raw.desk),
    loops: [...checked.loops.values()].map((one) => one.plan.loop),
    components: [...project.components.values()].map((one) => one.raw.component),
    cases: checked.cases.filter((one) => one.loop === key).map((one) => one.experiment.case),
    sets: [...project.parameterSets.values()].flatMap((set) => offered(set, signals)),
    requirements: project.requirements
      .filter((one) => criteria.some((other) => other.requirement === one.raw.requirement))
      .map((one) => ({ id: one.raw.requirement, text: one.raw.text })),
  };
}

/** A set that names something this loop has not, or may not change while running, is not offered. */
function offered({ raw, document }: ParameterSetDocument, signals: readonly DeskSignal[]): OfferedSet[] {
  const faults = new Faults();
  const values = Object.entries(raw.values).flatMap(([name, value]) => {
    const signal = signals.find((one) => nameKey(one.name) === nameKey(name) && one.role === 'parameter' && one.access === 'set');
    const number = signal && readValue(value, signal, document.place(['values', name]), faults);
    return signal && number !== undefined ? [[signal.slot, number] as const] : [];
  });
  return values.length === Object.keys(raw.values).length ? [{ name: raw.parameter_set, about: raw.about ?? '', values }] : [];
}

interface FoundLoop {
  readonly assembled: AssembledLoop;
  readonly loop: LoopDocument;
  readonly key: string;
}

function loopOf(checked: CheckedProject, raw: RawDesk | undefined, name: string | undefined): FoundLoop | string {
  const key = raw ? loopKeyOf(raw) : name === undefined ? [...checked.loops.keys()][0] : nameKey(name);
  if (key === undefined) return 'This project has no loop yet. Add one under loops/ in the Model place.';
  const [assembled, loop] = [checked.loops.get(key), checked.project.loops.get(key)];
  return assembled && loop ? { assembled, loop, key } : `There is no loop "${name ?? raw?.loop ?? ''}" in this project, or its document has faults.`;
}

function aloneOf({ project }: CheckedProject, name: string): FoundLoop | string {
  const component = project.components.get(nameKey(name));
  if (!component) return `There is no component "${name}" in this project, or its document has faults.`;
  const faults = new Faults();
  const loop = aloneLoop(component);
  const assembled = assembleLoop(project, loop, faults);
  const [first] = faults.all();
  return first ? `${name} cannot run alone: ${first.message} ${first.fix}` : { assembled, loop, key: nameKey(loop.raw.loop) };
}

function fullNames(items: readonly DeskItem[], loop: AssembledLoop): DeskItem[] {
  const full = (name: string): string => signalNamed(loop, name)?.name ?? name;
  return items.map((item) => ({ ...item, signal: full(item.signal), ...(item.with === undefined ? {} : { with: full(item.with) }) }));
}

function sceneOf({ project }: CheckedProject, loop: string, assembled: AssembledLoop): OpenedScene | undefined {
  const scene = [...project.scenes.values()].find((one) => nameKey(one.raw.loop) === nameKey(loop));
  const svg = scene && project.pictures.get(`scenes/${scene.raw.picture}`)?.svg;
  if (!scene || svg === undefined) return undefined;
  const moves = scene.raw.moves.flatMap((move) => {
    const signal = signalNamed(assembled, move.by);
    return signal ? [{ ...move, slot: signal.slot, span: move.from ?? ([signal.min ?? 0, signal.max ?? 1] as const) }] : [];
  });
  return { name: scene.raw.scene, svg, moves };
}

/** Rows that are kept exactly: as many as memory allows. The continuous log has one at each step and hit, the logs of the tasks fewer. */
function exactRows({ logged, tasks }: Plan): number {
  const numbers = logged.length + 1 + tasks.reduce((sum, task) => sum + task.logged.length + 1, 0);
  return Math.max(10_000, Math.floor(mostBytes / 8 / numbers));
}
