import { buttonSteps, caseOf, conditionOf, DeskSession, type Standing, sequenceSvg, startActions, type Take, takeOf } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { Node } from '@/core/plan';
import { checkProject, type DeskChoice, type DeskInUse, openDesk } from '@/core/project';
import type { RawCase } from '@/core/shapes';
import { sentenceOf, timeWords } from '@/core/wording';
import type { DeskAsk, DeskTold } from './messages';

/** The desk's own worker: the same plan and executive as everywhere, with a timer. */
const scope = self as unknown as {
  onmessage: ((event: MessageEvent<DeskAsk>) => void) | null;
  postMessage(told: DeskTold, transfer?: Transferable[]): void;
};
const clock = (): number => performance.now();

/** How often the page gets values, curves, and how the criteria stand (ms). */
const [frameEvery, lanesEvery, standingsEvery] = [33, 100, 500];
/** What the page has been sent and has not put on the screen yet: a page that is slower than the run is not sent more than it can show. */
const onTheWay = new Set<'frame' | 'lanes'>();
/** Criteria are judged no more than this share of the time. */
const shareForStandings = 0.1;

interface InUse {
  readonly desk: DeskInUse;
  readonly session: DeskSession;
  readonly caseValues: Pick<RawCase, 'parameters' | 'initial'>;
}

let use: InUse | undefined;
let shown: { slots: readonly number[]; lanes: readonly number[]; seconds: number } = { slots: [], lanes: [], seconds: 60 };
let timer: ReturnType<typeof setInterval> | undefined;
let [lanesAt, standingsAt, standingsCost] = [0, 0, 0];
let conditionText = '';
/** A condition that is looked out for, how often it was found last, and the instant that is looked at. */
let lookout: Node | undefined;
let caught = -1;
let lookedAt: number | undefined;
/** Share of the lanes that lies before the instant looked at. */
const before = 0.25;

function inUse(): InUse {
  if (!use) throw new Error('No desk has been opened yet.');
  return use;
}

function tellFrame(all: boolean): void {
  if (!all && onTheWay.has('frame')) return;
  onTheWay.add('frame');
  const { session, desk } = inUse();
  const tuned = new Map<number, number>();
  for (const event of session.events) if (event.k === 'tune' && event.atNs <= session.nowNs) tuned.set(event.slot, event.value);
  const designed = (slot: number): number | undefined => desk.order.experiment.plan.slots[slot]?.start;
  const changed = [...tuned].filter(([slot, value]) => value !== designed(slot));
  const values = session.values(shown.slots);
  for (const [slot, value] of commanded(inUse())) {
    const index = shown.slots.indexOf(slot);
    if (index >= 0) values[index] = value;
  }
  scope.postMessage(
    { k: 'frame', frame: { nowNs: session.nowNs, running: session.isRunning, exactFrom: session.exactFrom, values, tuned: changed } },
    [values.buffer as ArrayBuffer],
  );
}

/** What people have set last, though the run may not have come to the instant at which it acts. */
function commanded({ session, desk }: InUse): Map<number, number> {
  const { plan } = desk.order.experiment;
  const values = new Map<number, number>();
  for (const event of session.events) {
    if (event.atNs > session.nowNs + plan.solver.stepNs) break;
    const slot = event.k === 'set' ? plan.inputs[event.input]?.slot : event.k === 'tune' ? event.slot : undefined;
    if (slot !== undefined && event.k !== 'send') values.set(slot, event.value);
  }
  return values;
}

/** Curves often, verdicts seldom: both only as often as there is time for. */
function tellLanes(all: boolean): void {
  const { session } = inUse();
  const now = clock();
  if (!all && (onTheWay.has('lanes') || now - lanesAt < lanesEvery)) return;
  onTheWay.add('lanes');
  lanesAt = now;
  let standings: readonly Standing[] | undefined;
  if (all || now - standingsAt > Math.max(standingsEvery, standingsCost / shareForStandings)) {
    standings = session.standings();
    tellCaught(session);
    standingsAt = clock();
    standingsCost = standingsAt - now;
  }
  const trace = session.lanes(shown.lanes, shown.seconds, lookedAt === undefined ? undefined : lookedAt + (1 - before) * shown.seconds);
  scope.postMessage({ k: 'lanes', trace, standings }, [
    ...new Set([...trace.bases, ...trace.columns.map((column) => column.data)].map((part) => part.buffer as ArrayBuffer)),
  ]);
}

function tellCaught(session: DeskSession): void {
  if (!lookout) return;
  const at = session.risings(lookout);
  if (at.length === caught) return;
  caught = at.length;
  scope.postMessage({ k: 'caught', at, problem: '' });
}

function tick(): void {
  const { session } = inUse();
  if (session.tick()) scope.postMessage({ k: 'stopped', why: `Paused: ${conditionText} became true.` });
  const { error } = session;
  if (error) scope.postMessage({ k: 'stopped', why: sentenceOf(`The run ended at ${timeWords(error.at)}: ${error.message}`) });
  else if (session.isFull)
    scope.postMessage({ k: 'stopped', why: 'The desk runs for 100 days at most. Go back to an earlier moment, or to the start.' });
  tellFrame(!session.isRunning);
  tellLanes(!session.isRunning);
  if (!session.isRunning) stopTimer();
}

function stopTimer(): void {
  clearInterval(timer);
  timer = undefined;
}

function taken(): Take {
  const { session, desk } = inUse();
  return takeOf(session.trace(), desk.order.experiment.plan, desk.loop, session.events);
}

function open(files: readonly SourceFile[], choice: DeskChoice): void {
  stopTimer();
  const checked = checkProject(files);
  const desk = openDesk(checked, choice);
  if (typeof desk === 'string') {
    scope.postMessage({ k: 'problem', message: desk });
    return;
  }
  const { startFrom } = desk.view;
  const test = startFrom === undefined ? undefined : checked.project.cases.get(nameKey(startFrom));
  use = { desk, session: new DeskSession(desk.order, clock), caseValues: test?.raw ?? {} };
  for (const action of startActions(desk.view.items, desk.assembled)) use.session.act(action);
  scope.postMessage({ k: 'opened', desk: desk.view });
}

/** A condition as it was typed, none where nothing was, or what is wrong with it. */
function conditionIn(text: string): { readonly condition: Node | undefined; readonly problem: string } {
  const found = text.trim() === '' ? undefined : conditionOf(text, inUse().desk.assembled);
  return typeof found === 'string' ? { condition: undefined, problem: found } : { condition: found, problem: '' };
}

function pauseWhen(text: string): void {
  const { condition, problem } = conditionIn(text);
  conditionText = text.trim();
  scope.postMessage({ k: 'condition', problem });
  if (problem === '') inUse().session.pauseWhen(condition);
}

function catchWhen(text: string): void {
  const { condition, problem } = conditionIn(text);
  lookout = condition;
  [caught, lookedAt] = [-1, undefined];
  scope.postMessage({ k: 'caught', at: [], problem });
}

function tellTake(): void {
  const { view } = inUse().desk;
  const take = taken();
  scope.postMessage({ k: 'take', take, svg: sequenceSvg(take, view.name || view.loop) });
}

/** The head of a case made from a take: the desk's loop and requirements, and the values of the case it was started from. */
function headingOf(heading: Extract<DeskAsk, { k: 'make case' }>['heading']) {
  const { desk, caseValues } = inUse();
  const { loop, variant, requirements } = desk.view;
  return { ...heading, loop, ...(variant === undefined ? {} : { variant }), ...caseValues, meantFor: requirements };
}

/** Does what is asked. @returns true when the values on the screen may have changed */
function answer(ask: DeskAsk): boolean {
  if (ask.k === 'open') {
    open(ask.files, ask.choice);
    return false;
  }
  const { session, desk } = inUse();
  // biome-ignore lint/nursery/useExhaustiveSwitchCases: opening is answered above
  switch (ask.k) {
    case 'show':
      shown = ask;
      return true;
    case 'ready for':
      onTheWay.delete(ask.told);
      return false;
    case 'play':
      session.play();
      timer ??= setInterval(tick, frameEvery);
      tick();
      return false;
    case 'pause':
      session.pause();
      return true;
    case 'hit':
      session.hit();
      return true;
    case 'back':
      session.back();
      return true;
    case 'go to':
      session.goTo(ask.ns);
      return true;
    case 'speed':
      session.speed = ask.times;
      return false;
    case 'act':
      session.act(ask.action, ask.asEvent);
      return !session.isRunning;
    case 'press':
      session.press(buttonSteps(ask.steps, desk.assembled));
      return !session.isRunning;
    case 'start':
      session.back();
      for (const action of startActions(ask.items, desk.assembled)) session.act(action);
      return true;
    case 'pause when':
      pauseWhen(ask.text);
      return false;
    case 'catch':
      catchWhen(ask.text);
      return true;
    case 'look at':
      lookedAt = ask.at;
      return true;
    case 'take':
      tellTake();
      return false;
    case 'make case':
      scope.postMessage({ k: 'case', taken: caseOf(taken(), desk.order.experiment.plan, session.events, headingOf(ask.heading), ask.by) });
      return false;
  }
}

scope.onmessage = ({ data }) => {
  try {
    if (!answer(data)) return;
    tellFrame(true);
    tellLanes(true);
  } catch (problem) {
    scope.postMessage({ k: 'problem', message: problem instanceof Error ? problem.message : String(problem) });
  }
};
