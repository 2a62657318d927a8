import { loopOfCase } from '@/core/cases';
import { Coverage, type CoveredPart, touchedIn, untouched } from '@/core/coverage';
import { type Criterion, criterionSlots, type Margin, signalsOf } from '@/core/criteria';

import { nameKey } from '@/core/language';
import type { Catalogue } from '@/core/loop';
import type { Plan, SlotNumber } from '@/core/plan';
import { type CheckedCase, type CheckedProject, type CriterionResult, judgeOutcome, orderRun, type RunOrder } from '@/core/project';
import { type RunOutcome, simulate } from '@/core/simulate';
import { type BoundBoundary, boundBoundaries } from '../boundary/bound';
import { type Off, offOf } from '../boundary/off';
import { Asked } from './asked';
import { type Situation, slotsOf, Watcher } from './situation';
import { unreachableBecause } from './unreachable';

/** Something a run can show. */
export interface Goal {
  /** Stays the same when other text changes. */
  readonly id: string;
  readonly kind:
    | 'triggered'
    | 'decided'
    | 'boundary'
    | 'least'
    | 'broken'
    | 'state'
    | 'transition'
    | 'outcome'
    | 'row'
    | 'decides'
    | 'position'
    | 'limit'
    | 'message';
  readonly words: string;
  /** Of a goal that a criterion sets, with what it says of it. */
  readonly criterion?: { readonly requirement: string; readonly name: string; readonly says: string };
  /** Of a state that is to be entered: its full name, and the slot of its region. */
  readonly state?: { readonly name: string; readonly region: SlotNumber };
  /** What would have to be so at one instant for a run to reach it, or to be likely to: one of these. Empty where that cannot be said. */
  readonly situations: readonly Situation[];
  /** Why no run can reach it, where that is plain. */
  readonly unreachable?: string;
  /** Signals that it speaks of. */
  readonly slots: readonly SlotNumber[];
}

/** How far a run was from a goal; of a criterion that it met, the least margin. */
export interface Distance extends Off {
  readonly margin?: Margin;
}

/** What a run has shown: ids of goals, with what its criteria and its logic did. */
export interface Showing {
  readonly reached: ReadonlySet<string>;
  /** By the id of the goal: how far a run was from breaking each criterion that it met, where there are margins, and from its borders. */
  readonly distances: ReadonlyMap<string, Distance>;
  /** When goals that criteria set were reached first (s), by their ids. */
  readonly places: ReadonlyMap<string, number>;
  readonly results: readonly CriterionResult[];
  readonly outcome: RunOutcome;
  /** How near it came to what goals ask for. */
  readonly watcher: Watcher;
}

export type GoalKind = Goal['kind'];

/** Goals of a loop: each accepted criterion triggered, decided, broken, and on each of its borders; each part of its logic touched. */
export function goalsOf(project: CheckedProject, test: CheckedCase): Goal[] {
  const { experiment } = test;
  const asked = new Asked(experiment.plan);
  const nothing = new Coverage();
  nothing.add(experiment.plan, untouched(experiment.plan));
  return [...criterionGoals(project, test, asked), ...logicGoals(nothing, asked, experiment.plan)];
}

/** Whether a goal is set by a criterion of a requirement. */
export function isOf({ criterion }: Goal, requirement: string): boolean {
  return criterion !== undefined && nameKey(criterion.requirement) === nameKey(requirement);
}

/** Whether a goal is to touch a part of the logic; of a condition, to see it decide in either way. @param part its id in the coverage of the loop */
export function isPart({ id }: Goal, part: string): boolean {
  return id === part || id === decidesId(part, true) || id === decidesId(part, false);
}

/** Ids of the goals of a criterion. */
type Named = Pick<NonNullable<Goal['criterion']>, 'requirement' | 'name'>;
export function triggeredId({ requirement, name }: Named): string {
  return `triggered ${requirement} ${name}`;
}
export function brokenId({ requirement, name }: Named): string {
  return `broken ${requirement} ${name}`;
}

/** That a criterion is met or broken in a run, and not left open. */
export function decidedId({ requirement, name }: Named): string {
  return `decided ${requirement} ${name}`;
}

/** That a criterion is met with as little margin as the loop can. Never reached for certain: a search comes to rest. */
export function leastId({ requirement, name }: Named): string {
  return `least ${requirement} ${name}`;
}

function boundaryId({ requirement, name }: Named, key: string): string {
  return `boundary ${requirement} ${name}: ${key}`;
}

function criterionGoals(project: CheckedProject, test: CheckedCase, asked: Asked): Goal[] {
  return bordered(project, test).flatMap(({ requirement, name, criterion: typed, boundaries }): Goal[] => {
    const criterion = { requirement, name };
    const slots = criterionSlots(typed);
    const set = (kind: GoalKind, id: string, says: string, situations: readonly Situation[]): Goal => {
      const words = `${requirement} ${name}${kind === 'boundary' ? ':' : ''} ${says}`;
      return { id, kind, words, criterion: { ...criterion, says }, situations, slots };
    };
    const triggers = asked.criterion(typed);
    return [
      set('triggered', triggeredId(criterion), 'is triggered', triggers),
      set('decided', decidedId(criterion), 'is decided: the run goes on for long enough', triggers),
      ...boundaries.map((one) => set('boundary', boundaryId(criterion, one.key), one.words, asked.boundary(one, triggers))),
      ...(hasMargins(typed) ? [set('least', leastId(criterion), leastWords(typed), asked.breaking(typed))] : []),
      set('broken', brokenId(criterion), 'is broken', asked.breaking(typed)),
    ];
  });
}

/** Whether runs can meet it more or less narrowly: it compares numbers, or something is owed by a time. */
function hasMargins({ pattern, atoms }: Criterion): boolean {
  return atoms.length > 0 || pattern.k === 'measure' || isTimed(pattern);
}

function isTimed(pattern: Criterion['pattern']): boolean {
  if (pattern.k === 'sequence') return pattern.seconds !== undefined;
  return pattern.k === 'when' && (pattern.timing.k === 'within' || pattern.timing.k === 'within for' || pattern.timing.k === 'between');
}

function leastWords({ pattern }: Criterion): string {
  return isTimed(pattern) ? 'is answered as late as the loop can' : 'is met as narrowly as the loop can';
}

type Bordered = RunOrder['watched'][number] & { readonly boundaries: readonly BoundBoundary[] };

/** The criteria that a case is watched for, with their borders. */
function bordered(project: CheckedProject, test: CheckedCase): Bordered[] {
  const loop = project.loops.get(test.loop);
  if (!loop) throw new RangeError(`there is no loop ${test.loop}`);
  const { catalogue }: { readonly catalogue: Catalogue } = loopOfCase(test.document, loop);
  const sentences = new Map(project.criteria.map(({ requirement, name, sentence }) => [triggeredId({ requirement, name }), sentence]));
  return orderRun(project, test).watched.map((one) => {
    const sentence = sentences.get(triggeredId(one)) ?? '';
    return { ...one, boundaries: boundBoundaries(sentence, catalogue, test.experiment.plan) };
  });
}

function logicGoals(coverage: Coverage, asked: Asked, { regions }: Plan): Goal[] {
  const { items, conditions } = coverage.report();
  const parts = coverage.parts();
  return [
    ...items.map(({ id, kind, words }): Goal => {
      const goal = logicGoal(id, kind, doneWords(kind, words), situationsOf(parts.get(id), asked));
      const region = kind === 'state' ? regions.find(({ name }) => name === words.slice(0, words.lastIndexOf('.'))) : undefined;
      return region ? { ...goal, state: { name: words, region: region.slot } } : goal;
    }),
    // A pair takes two runs as a rule: one in which the condition makes the outcome TRUE, one in which it makes it FALSE.
    ...conditions.flatMap(({ id, text, of }) =>
      [true, false].map((outcome): Goal => {
        const words = `"${text}" alone makes ${of} ${outcome ? 'TRUE' : 'FALSE'}`;
        return logicGoal(decidesId(id, outcome), 'decides', words, situationsOf(parts.get(id), asked, outcome));
      }),
    ),
  ];
}

function doneWords(kind: GoalKind, words: string): string {
  if (kind === 'state') return `${words} is entered`;
  if (kind === 'message') return `${words} is sent`;
  return kind === 'position' ? `${words}: it stands there` : words;
}

function logicGoal(id: string, kind: GoalKind, words: string, situations: readonly Situation[]): Goal {
  // A state may be entered in ways that are no transition.
  const unreachable = kind === 'state' ? undefined : unreachableBecause(situations);
  return {
    id,
    kind,
    words,
    situations,
    slots: [...new Set(situations.flat().flatMap(slotsOf))],
    ...(unreachable === undefined ? {} : { unreachable }),
  };
}

function decidesId(condition: string, outcome: boolean): string {
  return `${condition} makes ${outcome}`;
}

function situationsOf(part: CoveredPart | undefined, asked: Asked, outcome = true): Situation[] {
  switch (part?.k) {
    case 'state':
      return asked.state(part.name);
    case 'transition':
      return asked.transition(part.info);
    case 'position':
      return asked.position(part.info.node, part.info.text);
    case 'message':
      return asked.message(part.info);
    case 'outcome':
      return asked.outcome(part.tree, part.value);
    case 'condition':
      return asked.deciding(part.tree, part.bit, outcome, part.guards);
    case undefined:
      return [];
  }
}

/**
 * Makes the run of a case, and says what it shows.
 * @param withBorders of requirements whose criteria it says how near it came to their borders, too
 */
export function showingOf(project: CheckedProject, test: CheckedCase, withBorders: (requirement: string) => boolean = () => false): Showing {
  return shownBy(project, test, simulate({ ...test.experiment, coverage: true }), withBorders);
}

/** A border of a criterion that a run has reached. */
export interface ReachedBorder {
  readonly requirement: string;
  readonly criterion: string;
  /** What it says of the criterion. */
  readonly says: string;
  /** When first (s). */
  readonly at?: number;
}

/** The borders that a run of a case has reached. @param shown with borders of all requirements */
export function bordersReached(
  project: CheckedProject,
  test: CheckedCase,
  { reached, places }: Pick<Showing, 'reached' | 'places'>,
): ReachedBorder[] {
  return bordered(project, test).flatMap((criterion) =>
    criterion.boundaries.flatMap(({ key, words }): ReachedBorder[] => {
      const id = boundaryId(criterion, key);
      const at = places.get(id);
      return reached.has(id)
        ? [{ requirement: criterion.requirement, criterion: criterion.name, says: words, ...(at === undefined ? {} : { at }) }]
        : [];
    }),
  );
}

/** What a run of a case shows that was made with counters. @param withBorders as above */
export function shownBy(project: CheckedProject, test: CheckedCase, outcome: RunOutcome, withBorders: (requirement: string) => boolean): Showing {
  const watched = bordered(project, test);
  const { plan } = test.experiment;
  const results = judgeOutcome(watched, outcome);
  const coverage = new Coverage();
  coverage.add(plan, touchedIn(plan, outcome));
  const { items, conditions } = coverage.report();
  const reached = new Set<string>();
  // A run that could not go on shows nothing; one whose plant is not to be believed shows nothing of a criterion.
  const distances = new Map<string, Distance>();
  const signals = signalsOf(outcome.trace, (slot) => outcome.slots[slot] ?? Number.NaN);
  const places = new Map<string, number>();
  const reach = (id: string, at: number | undefined): void => {
    reached.add(id);
    if (at !== undefined) places.set(id, at);
  };
  const shown = { reached, distances, places, results, outcome, watcher: new Watcher(signals, plan.parameters) };
  if (outcome.error) return shown;
  for (const [index, { requirement, name, verdict, obligations, worst }] of (outcome.implausible.length > 0 ? [] : results).entries()) {
    const criterion = { requirement, name };
    for (const boundary of withBorders(requirement) ? (watched[index]?.boundaries ?? []) : []) {
      const off = offOf(boundary, signals, obligations);
      const id = boundaryId(criterion, boundary.key);
      if (off) distances.set(id, off);
      if (off?.measure === 0) reach(id, off.at);
    }
    if (verdict !== 'none') reach(triggeredId(criterion), obligations[0]?.from);
    if (verdict === 'pass' || verdict === 'fail') reach(decidedId(criterion), obligations.find((one) => one.outcome !== 'open')?.at);
    if (verdict === 'fail') reached.add(brokenId(criterion));
    const tightest = worst === undefined ? undefined : obligations[worst];
    const margin = tightest?.margin;
    if (verdict === 'pass' && margin !== undefined) {
      distances.set(brokenId(criterion), { measure: margin.measure, margin });
      distances.set(leastId(criterion), { measure: margin.measure, margin, ...(tightest?.at === undefined ? {} : { at: tightest.at }) });
    }
  }
  for (const { id, count } of items) if (count > 0) reached.add(id);
  for (const { id, deciding } of conditions) for (const outcomeOfIt of deciding) reached.add(decidesId(id, outcomeOfIt));
  return shown;
}
