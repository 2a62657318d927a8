import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import { Stream, seedOfStream } from '@/core/numeric';
import { type CheckedCase, type CheckedProject, caseSaying } from '@/core/project';
import type { RawCase, RawStep } from '@/core/shapes';
import { brokenId, type Distance, type Goal, type GoalKind, goalsOf, type Showing, showingOf, triggeredId } from '../goals/goals';
import type { Nearness } from '../goals/situation';
import { movesOf } from './begun';
import type { Candidate } from './candidate';
import { Drawing, mostMoves } from './drawing';
import { Genes } from './genes';
import { LocalSearch } from './local';
import { type Movable, type Move, movablesOf, plantValues, variedOf } from './moves';
import { withNotable } from './notable';
import { Pursuit } from './pursuit';
import { asTheyCame, stateNames, staysIn } from './waits';
import { CaseWriter } from './writing';

export interface SearchSettings {
  readonly seed: number;
  /** Which of several searches from one seed it is; they differ. */
  readonly strain?: number;
  readonly kinds: ReadonlySet<GoalKind>;
  /** Names of inputs and messages that are left alone. */
  readonly fixed?: readonly string[];
  /** Wires may be faulty as well. */
  readonly withWires?: boolean;
  /** Names of parameters and states whose values from the start may be others, between their limits; or all parameters of the plant. */
  readonly vary?: readonly string[] | 'plant';
  /** The case that is begun with keeps its stimuli and its script: what it drives is left alone. */
  readonly keepsCourse?: boolean;
  /** Every case is drawn anew, of moves of the same kinds: what the search is measured against. */
  readonly isBlind?: boolean;
  /** Goals that are not gone after: justified, or somebody else's. */
  readonly leavesOut?: (goal: Goal) => boolean;
  /** What it goes after above all: goals, or criteria that it tries to break; of the latter all unless said. */
  readonly isAimed?: (goal: Goal) => boolean;
}

/** A run, and how far it was from goals, by their ids. */
export type Shown = Candidate & Pick<Showing, 'distances'>;

/** The run that came nearest to breaking a criterion, or to one of its borders. */
export interface Nearest {
  readonly candidate: Candidate;
  readonly distance: Distance;
  /** How often it was searched around, and how often it was changed since without coming nearer. */
  searched: number;
  changed: number;
}

const mostEvents = 200;
/** Runs of which half are drawn anew. */
const firstRuns = 6;
/** How often it is searched around the run with the least margin, without finding less, before that counts as the least. */
const mostSearched = 2;
/** Of margins, one is less than another where it is so by this part of it. */
export const clearly = 0.01;
/** Changes of the nearest run without anything nearer, after which its numbers are searched around. */
const patience = 15;
/** Kinds of goals of which runs tell how far they were. */
const measured: ReadonlySet<GoalKind> = new Set(['broken', 'least', 'boundary']);
/** Kinds of goals that lead to others: a run that reaches one is kept whatever is looked for. */
const onTheWay: ReadonlySet<GoalKind> = new Set(['triggered', 'state', 'transition', 'outcome', 'row']);

/**
 * Looks for cases of a loop that reach goals no other case reaches. It goes after open goals in turn, from the runs that came nearest to them; keeps what reached something new and changes it further; and now
 * and then draws a case anew. Where a criterion is to be broken, the runs with its least margin are changed, and searched around. Everything follows from the seed.
 */
export class Search {
  readonly goals: readonly Goal[];
  /** Goals that no run can reach, with the reason. */
  readonly unreachable: readonly Goal[];
  readonly found: Candidate[] = [];
  /** Ids of goals that some case has reached, and of those that the cases there were reached before it began. */
  readonly reached = new Set<string>();
  readonly known: ReadonlySet<string>;
  runs = 0;
  /** Goals that are asked for, and those on the way to them. */
  private readonly all: readonly Goal[];
  private readonly byId: ReadonlyMap<string, Goal>;
  private readonly breaking: ReadonlySet<string>;
  /** Requirements whose borders are gone after. */
  private readonly bordered: ReadonlySet<string>;
  private readonly movables: readonly Movable[];
  private readonly stream: Stream;
  private readonly stopNs: number;
  private readonly drawing: Drawing;
  private readonly pursuit: Pursuit;
  private readonly nearest = new Map<string, Nearest>();
  /** Least margins of the cases there are, by ids of goals. */
  private readonly leastKnown = new Map<string, number>();
  private readonly tries = new Map<string, number>();
  private local: { readonly goal: string; readonly genes: Genes; readonly search: LocalSearch } | undefined;
  private readonly writer: CaseWriter;
  /** States that moves may wait for, by their marks; none where the case has a script of its own. */
  private readonly stateNames: ReadonlyMap<number, string>;

  /**
   * @param template any sound case of the loop: its loop, variant and values are those of the cases that are found, its stimuli and script only where settings say so
   * @param known cases that are there already: what they reach is reached
   */
  constructor(
    private readonly project: CheckedProject,
    private readonly template: CheckedCase,
    known: readonly CheckedCase[],
    private readonly settings: SearchSettings,
  ) {
    const loop = project.loops.get(template.loop);
    if (!loop) throw new RangeError(`there is no loop ${template.loop}`);
    this.stream = new Stream(seedOfStream(settings.seed, settings.strain ?? 0));
    this.stopNs = template.experiment.stopNs;
    const every = goalsOf(project, template);
    this.breaking = new Set(every.flatMap(({ id, kind }) => (kind === 'broken' ? [id] : [])));
    const isAskedFor = (goal: Goal): boolean => settings.kinds.has(goal.kind) && goal.unreachable === undefined && !settings.leavesOut?.(goal);
    this.unreachable = every.filter(({ kind, unreachable }) => settings.kinds.has(kind) && unreachable !== undefined);
    this.all = every.filter((goal) => isAskedFor(goal) || onTheWay.has(goal.kind));
    this.byId = new Map(this.all.map((goal) => [goal.id, goal]));
    this.goals = this.all.filter(isAskedFor);
    this.bordered = new Set(this.goals.flatMap(({ kind, criterion }) => (kind === 'boundary' && criterion ? [criterion.requirement] : [])));
    this.movables = withNotable(movablesFor(loop, template, settings), this.all, loop.plan);
    const hasScript = settings.keepsCourse && template.document.raw.script;
    this.stateNames = hasScript ? new Map() : stateNames(loop.plan, loop.catalogue);
    this.writer = new CaseWriter(template, loop, this.movables, settings.keepsCourse ?? false);
    this.drawing = new Drawing(this.movables, this.stream, this.stopNs);
    this.pursuit = new Pursuit(loop, this.all, this.movables, this.drawing, this.stream, this.stopNs, (id) => this.reached.has(id));
    for (const test of known) this.know(showingOf(project, test, this.hasBorders));
    this.known = new Set(this.reached);
    this.take([]);
    const stateOf = (condition: string): string | undefined => this.stateNames.get(loop.catalogue.findState(condition.split('.')) ?? -1);
    for (const { document, experiment } of known) this.begin(movesOf(document.raw, this.movables, stateOf), experiment.stopNs);
  }

  /** What no case shows once it is made small is not reached. @param goals their ids */
  forget(goals: Iterable<string>): void {
    for (const id of goals) this.reached.delete(id);
  }

  private know({ reached, distances }: Showing): void {
    for (const id of reached) this.reached.add(id);
    for (const { id } of this.goals) this.leastKnown.set(id, Math.min(distances.get(id)?.measure ?? Number.POSITIVE_INFINITY, this.leastBefore(id)));
  }

  /** The least margin that a case there is shows of a criterion, made comparable. @param goal its id */
  leastBefore(goal: string): number {
    return this.leastKnown.get(goal) ?? Number.POSITIVE_INFINITY;
  }

  /** What a case there is does is where it begins, as far as moves can say it. */
  private begin(moves: readonly Move[], stopNs: number): void {
    const showing = moves.length > 0 && moves.length <= mostMoves ? this.tried(moves, stopNs) : undefined;
    if (showing) this.keep(moves, stopNs, showing, undefined, true);
  }

  /** Takes in what another search has found. */
  receive(moves: readonly Move[], stopNs: number): void {
    this.take(moves, undefined, stopNs);
  }

  private readonly hasBorders = (requirement: string): boolean => this.bordered.has(requirement);

  get left(): Goal[] {
    return this.goals.filter((goal) => !this.reached.has(goal.id) && !this.isAtRest(goal));
  }

  /** Nothing more is to be found by going on: the least margin has long stayed what it is, or there is none to follow. */
  private isAtRest({ id, kind, criterion }: Goal): boolean {
    if (kind !== 'least' || !criterion) return false;
    return this.isBroken({ criterion }) || (this.nearest.get(id)?.searched ?? mostSearched) >= mostSearched;
  }

  /** Whether what a run has shown breaks a criterion. @param reached ids of goals */
  breaks(reached: ReadonlySet<string>): boolean {
    return [...reached].some((id) => this.breaking.has(id));
  }

  /** The run that came nearest to breaking a criterion, or to a border of one, where it is not reached yet. @param goal its id */
  nearestTo(goal: string): Nearest | undefined {
    return this.reached.has(goal) ? undefined : this.nearest.get(goal);
  }

  /** How near any run came to what a goal asks for. */
  nearnessTo(goal: Goal): Nearness | undefined {
    return this.pursuit.nearestTo(goal)?.nearness;
  }

  /** In how many runs a criterion that is to be broken was triggered. @param goal its id */
  triesOf(goal: string): number {
    return this.tries.get(goal) ?? 0;
  }

  /** Makes one more run. @returns the case where it reaches something new */
  step(): Candidate | undefined {
    if (this.settings.isBlind) return this.take(this.drawing.anew());
    const untriggered = this.untriggered;
    // What no run has triggered yet has no margin to follow: then more is tried out.
    const share = untriggered.length > 0 ? 0.2 : 0.5;
    const near = this.followed;
    if (near.length > 0 && this.stream.next() < share) return this.stepNearer(near);
    const u = this.stream.next();
    // At first much is tried out: what many moves at any time bring about is what is changed later.
    if (u < (this.runs < firstRuns ? 0.5 : 0.15)) return this.take(this.drawing.anew());
    const approach = u < 0.85 ? this.pursuit.next(this.sought(untriggered)) : undefined;
    const parent = this.found[Math.floor(this.stream.next() ** 2 * this.found.length)] as Candidate;
    if (!approach) return this.take(this.changed(parent));
    if (this.stream.next() < 0.15) return this.take(this.pursuit.stirred(approach.goal, parent) ?? this.changed(parent), approach.goal);
    const { moves, stopNs } = this.pursuit.towards(approach);
    return this.take(moves, approach.goal, stopNs);
  }

  /** The nearest runs to follow. How narrowly criteria are met is for later: when it has long been tried to reach borders. */
  private get followed(): (readonly [string, Nearest])[] {
    const open = [...this.nearest].filter(([goal]) => !this.reached.has(goal));
    const least = open.filter(([goal, { searched }]) => this.isLeast(goal) && searched < mostSearched);
    const others = open.filter(([goal]) => !this.isLeast(goal));
    if (least.length === 0) return others;
    const hasNew = others.some(([, { searched }]) => searched < mostSearched);
    return hasNew && this.stream.next() < 0.8 ? others : least;
  }

  /** Criteria that it tries to break, and that no run has triggered. */
  private get untriggered(): Goal[] {
    return this.goals.filter((goal) => goal.kind === 'broken' && this.isSought(goal) && this.triesOf(goal.id) === 0);
  }

  /** What to go after: how criteria are triggered that are to be broken, how they are broken, what else is left, or what may lead to it. */
  private sought(untriggered: readonly Goal[]): readonly Goal[] {
    const triggers = untriggered.flatMap(({ criterion }) => (criterion ? (this.byId.get(triggeredId(criterion)) ?? []) : []));
    const left = this.left.filter(({ kind }) => kind !== 'least');
    const aims = left.filter((goal) => (this.settings.isAimed ? this.settings.isAimed(goal) : goal.kind === 'broken'));
    const u = this.stream.next();
    if (u < 0.6 && aims.length > 0) return triggers.length > 0 && u < 0.4 ? triggers : aims;
    const others = left.filter(({ kind }) => kind !== 'broken');
    return u < 0.9 && others.length > 0 ? others : this.all.filter(({ id, kind }) => kind !== 'broken' && kind !== 'least' && !this.reached.has(id));
  }

  /** Whether a run has broken the criterion that a goal is of. */
  isBroken({ criterion }: Pick<Goal, 'criterion'>): boolean {
    return criterion !== undefined && this.reached.has(brokenId(criterion));
  }

  private isLeast(goal: string): boolean {
    return this.byId.get(goal)?.kind === 'least';
  }

  /** A criterion that it tries to break or to meet narrowly, or a border of one. */
  private isSought(goal: Goal): boolean {
    return measured.has(goal.kind) && (this.settings.isAimed?.(goal) ?? true);
  }

  private changed(parent: Candidate): Move[] {
    return this.drawing.changed(parent, () => this.drawing.any(this.found)?.moves ?? []);
  }

  /** Follows the least margin of a criterion that is to be broken, or the distance to a border: by what is known to be missing, by changes, and where they come no nearer, by its numbers. */
  private stepNearer(all: readonly (readonly [string, Nearest])[]): Candidate | undefined {
    if (this.local) return this.goOnLocally(this.local);
    const [goal, near] = this.drawing.any(all) ?? [];
    if (goal === undefined || !near) return this.take(this.drawing.anew());
    const { candidate, distance } = near;
    const isShifted = distance.shift !== undefined && candidate.moves.length > 0 && this.stream.next() < 0.6;
    if (isShifted) return this.take(this.drawing.shifted(candidate.moves, distance.shift), undefined, candidate.stopNs);
    this.beginLocally(goal, near);
    if (this.local) return this.goOnLocally(this.local);
    return this.take(this.changed(candidate), undefined, candidate.stopNs);
  }

  /** The numbers of the nearest run are searched around where changes come no nearer, ever more seldom. */
  private beginLocally(goal: string, near: Nearest): void {
    near.changed += 1;
    if (near.changed < patience * (1 + near.searched)) return;
    near.searched += 1;
    near.changed = 0;
    const genes = new Genes(near.candidate.moves, this.movables, this.stopNs);
    if (genes.values.length > 0) this.local = { goal, genes, search: new LocalSearch(genes.values, 0.1, this.stream) };
  }

  private goOnLocally({ goal, genes, search }: NonNullable<Search['local']>): Candidate | undefined {
    const moves = genes.moved(search.ask());
    const showing = this.tried(moves);
    search.tell(showing?.reached.has(goal) ? Number.NEGATIVE_INFINITY : (showing?.distances.get(goal)?.measure ?? Number.POSITIVE_INFINITY));
    const candidate = showing && this.keep(moves, this.stopNs, showing);
    if (search.isOver || this.reached.has(goal)) this.local = undefined;
    return candidate;
  }

  /** What the run of a case with some moves shows, or nothing where it cannot be a case: one that waits for what does not come is none. */
  shown(moves: readonly Move[], stopNs: number): Shown | undefined {
    const showing = this.made(this.document(moves, stopNs));
    return showing && !showing.outcome.gaveUp ? { ...this.candidate(moves, stopNs, showing), distances: showing.distances } : undefined;
  }

  private candidate(moves: readonly Move[], stopNs: number, { outcome: { trace }, reached }: Showing): Candidate {
    const events = [...new Set([...trace.marks.time].map((t) => Math.round(t * 1e9)))].slice(0, mostEvents);
    const stays = staysIn(trace, this.stateNames);
    const values = this.movables.filter(({ kind }) => kind === 'parameter').map(({ name }) => nameKey(name));
    const isValue = ({ name }: Move): boolean => values.includes(nameKey(name));
    const came = asTheyCame(
      moves.filter((one) => !isValue(one)),
      stays,
    );
    return { moves: [...moves.filter(isValue), ...came], stopNs, reached, events, stays };
  }

  /** The same while it is looked for: all wires are ready to be faulty in it, so that all cases of the search share one program. */
  private tried(moves: readonly Move[], stopNs = this.stopNs): Showing | undefined {
    const raw = this.document(moves, stopNs);
    const ready = this.movables.filter(({ kind }) => kind === 'wire').map(({ name }): RawStep => ({ fault: { on: name, over: true } }));
    return this.made(ready.length > 0 ? { ...raw, script: [...ready, ...(raw.script ?? [])] } : raw);
  }

  /** @returns nothing where it cannot be a case, which counts as a run all the same: a search ends after so many */
  private made(raw: RawCase): Showing | undefined {
    this.runs += 1;
    const found = caseSaying(this.project, this.template, raw);
    return 'faults' in found ? undefined : showingOf(this.project, found.test, this.hasBorders);
  }

  /** A name that no case of the project has: the one that is wanted, or that with a number. */
  freeName(wanted: string): string {
    const { cases } = this.project.project;
    for (let number = 1; ; number += 1) {
      const name = number === 1 ? wanted : `${wanted}, ${number}`;
      if (!cases.has(nameKey(name))) return name;
    }
  }

  /** What the document of a case with some moves says. */
  document(moves: readonly Move[], stopNs: number): RawCase {
    return this.writer.document(moves, stopNs);
  }

  /** @param after the goal it went after */
  private take(moves: readonly Move[], after?: Goal, stopNs = this.stopNs): Candidate | undefined {
    const showing = this.tried(moves, stopNs);
    return showing && this.keep(moves, stopNs, showing, after);
  }

  /** Keeps what reaches something new, and what comes nearer to a goal than anything before. @param isBegun it is what a case there is does, and is kept */
  private keep(moves: readonly Move[], stopNs: number, showing: Showing, after?: Goal, isBegun = false): Candidate | undefined {
    const candidate = this.candidate(moves, stopNs, showing);
    for (const goal of this.goals) this.weigh(goal, candidate, showing);
    const isNew = this.all.some(({ id }) => showing.reached.has(id) && !this.reached.has(id));
    for (const id of showing.reached) this.reached.add(id);
    const isKept = isNew || isBegun || this.found.length === 0;
    const open = this.all.filter(({ id }) => !this.reached.has(id));
    this.pursuit.note(candidate, showing, isKept ? open : after && !this.reached.has(after.id) ? [after] : []);
    if (!isKept) return undefined;
    // The newest come first: what has just opened something up is changed further most often.
    this.found.unshift(candidate);
    return candidate;
  }

  /** Counts that a criterion that is to be broken was triggered, and keeps the run with its least margin; of a border, the run that came nearest. */
  private weigh(goal: Goal, candidate: Candidate, { reached, distances }: Showing): void {
    if (!measured.has(goal.kind) || !goal.criterion) return;
    if (goal.kind === 'broken' && reached.has(triggeredId(goal.criterion))) this.tries.set(goal.id, this.triesOf(goal.id) + 1);
    const distance = this.isSought(goal) ? distances.get(goal.id) : undefined;
    const known = this.nearest.get(goal.id);
    if (!distance || distance.measure >= (known?.distance.measure ?? Number.POSITIVE_INFINITY)) return;
    // A margin may become less by ever smaller bits: then it comes to rest all the same.
    const isSame = known && goal.kind === 'least' && distance.measure > known.distance.measure - clearly * Math.abs(known.distance.measure);
    this.nearest.set(goal.id, { candidate, distance, searched: isSame ? known.searched : 0, changed: isSame ? known.changed : 0 });
  }
}

/** What a search may move: what is free, is not fixed, and is not driven by a case that keeps its course. */
function movablesFor(loop: AssembledLoop, template: CheckedCase, settings: SearchSettings): Movable[] {
  const { stimuli, script } = settings.keepsCourse ? template.document.raw : {};
  const fixed = new Set([...(settings.fixed ?? []), ...Object.keys(stimuli ?? {})].map(nameKey));
  const free = movablesOf(loop, settings.withWires ?? false).filter(({ name, kind }) => {
    return !fixed.has(nameKey(name)) && !(script && (kind === 'message' || kind === 'wire'));
  });
  return [...free, ...variedOf(loop, settings.vary === 'plant' ? plantValues(loop) : (settings.vary ?? []))];
}
