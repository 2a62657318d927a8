import type { Margin } from '@/core/criteria';
import { nameKey } from '@/core/language';
import { Stream, seedOfStream } from '@/core/numeric';
import { type CheckedCase, type CheckedProject, caseSaying } from '@/core/project';
import type { RawCase, RawStep } from '@/core/shapes';
import { inputsNamed, type WantedTransition, wantedTransitions, whenActive } from './directed';
import { Genes } from './genes';
import { type Goal, type GoalKind, goalsOf, type Showing, showingOf } from './goals';
import { LocalSearch } from './local';
import { drawnValue, type Movable, type Move, movablesOf, plantValues, roundTime, variedOf } from './moves';
import { CaseWriter } from './writing';

/** A case that was found, and what its run shows. */
export interface Candidate {
  readonly moves: readonly Move[];
  readonly stopNs: number;
  readonly reached: ReadonlySet<string>;
  /** Instants at which something happened in the logic (ns). */
  readonly events: readonly number[];
}

export interface SearchSettings {
  readonly seed: number;
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
  /** Which criteria it tries to break; all of them unless said. */
  readonly isAimed?: (goal: Goal) => boolean;
}

/** The run that came nearest to breaking a criterion. */
export interface Nearest {
  readonly candidate: Candidate;
  /** Its least margin. */
  readonly margin: Margin;
  /** How often it was searched around. */
  searched: number;
}

/** Most moves of a case. */
const mostMoves = 12;
const mostEvents = 200;
/** Runs in which most cases are drawn anew. */
const firstRuns = 30;

/**
 * Looks for cases of a loop that reach goals no other case reaches. It keeps what reached something new and changes it further: moves are added, taken out, shifted, given other values, joined from two
 * cases. Moves are set to instants at which something happened in the run they are added to, and, where a transition is wanted whose guard names free inputs, to the values it asks for while the state it
 * starts in is active. Everything follows from the seed.
 */
export class Search {
  readonly goals: readonly Goal[];
  readonly found: Candidate[] = [];
  /** Ids of goals that some case has reached, and of those that the cases there were reached before it began. */
  readonly reached = new Set<string>();
  readonly known: ReadonlySet<string>;
  runs = 0;
  private readonly movables: readonly Movable[];
  private readonly stream: Stream;
  private readonly stopNs: number;
  private readonly transitions: readonly WantedTransition[];
  /** Free inputs that each criterion names. */
  private readonly inputsNamed: ReadonlyMap<string, readonly Movable[]>;
  private readonly nearest = new Map<string, Nearest>();
  private readonly tries = new Map<string, number>();
  private local: { readonly goal: string; readonly genes: Genes; readonly search: LocalSearch } | undefined;
  private readonly writer: CaseWriter;

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
    const { stimuli, script } = settings.keepsCourse ? template.document.raw : {};
    const fixed = new Set([...(settings.fixed ?? []), ...Object.keys(stimuli ?? {})].map(nameKey));
    const free = movablesOf(loop, settings.withWires ?? false).filter(({ name, kind }) => {
      return !fixed.has(nameKey(name)) && !(script && (kind === 'message' || kind === 'wire'));
    });
    this.movables = [...free, ...variedOf(loop, settings.vary === 'plant' ? plantValues(loop) : (settings.vary ?? []))];
    this.writer = new CaseWriter(template, loop, this.movables, settings.keepsCourse ?? false);
    this.stream = new Stream(seedOfStream(settings.seed, 0));
    this.stopNs = template.experiment.stopNs;
    this.goals = goalsOf(project, template, settings.kinds);
    this.transitions = wantedTransitions(loop.plan);
    this.inputsNamed = inputsNamed(project, template, this.movables);
    for (const test of known) for (const id of showingOf(project, test).reached) this.reached.add(id);
    this.known = new Set(this.reached);
    this.take([]);
  }

  get left(): Goal[] {
    return this.goals.filter(({ id }) => !this.reached.has(id));
  }

  /** The run that came nearest to breaking a criterion, and is not broken yet. @param goal its id */
  nearestTo(goal: string): Nearest | undefined {
    return this.reached.has(goal) ? undefined : this.nearest.get(goal);
  }

  /** In how many runs a criterion that is to be broken was triggered. @param goal its id */
  triesOf(goal: string): number {
    return this.tries.get(goal) ?? 0;
  }

  /** Makes one more run. @returns the case where it reaches something new */
  step(): Candidate | undefined {
    if (this.settings.isBlind) return this.take(this.drawnAnew());
    if (this.local) return this.goOnLocally(this.local);
    // What no run has triggered yet has no margin to follow: then more is tried out.
    const share = this.goals.some((goal) => this.isSought(goal) && this.triesOf(goal.id) === 0) ? 0.25 : 0.6;
    const near = this.nearest.size > 0 && this.stream.next() < share ? this.anyNearest() : undefined;
    if (near && this.beginLocally(...near) && this.local) return this.goOnLocally(this.local);
    if (near) return this.take(this.changed(near[1].candidate));
    const parent = this.found[Math.floor(this.stream.next() ** 2 * this.found.length)] ?? this.found[0];
    const u = this.stream.next();
    // At first much is tried out: what many moves at any time bring about is what is changed later.
    if (u < (this.runs < firstRuns ? 0.7 : 0.2)) return this.take(this.drawnAnew());
    const directed = u < 0.5 ? this.towardsTransition() : u < 0.8 ? this.towardsCriterion(parent) : undefined;
    return this.take(directed ?? this.changed(parent));
  }

  /** A criterion that it tries to break. */
  private isSought(goal: Goal): boolean {
    return goal.kind === 'broken' && (this.settings.isAimed?.(goal) ?? true);
  }

  private drawnAnew(): Move[] {
    const count = 1 + Math.floor(this.stream.next() * mostMoves);
    return Array.from({ length: count }, () => this.drawn([]))
      .flat()
      .slice(0, mostMoves);
  }

  private anyNearest(): readonly [string, Nearest] | undefined {
    const open = [...this.nearest].filter(([goal]) => !this.reached.has(goal));
    return open[Math.floor(this.stream.next() * open.length)];
  }

  /** The numbers of the nearest run are searched around, once and again now and then. */
  private beginLocally(goal: string, near: Nearest): boolean {
    if (this.stream.next() > 0.25 / (1 + near.searched)) return false;
    near.searched += 1;
    const genes = new Genes(near.candidate.moves, this.movables, this.stopNs);
    if (genes.values.length === 0) return false;
    this.local = { goal, genes, search: new LocalSearch(genes.values, 0.1, this.stream) };
    return true;
  }

  private goOnLocally({ goal, genes, search }: NonNullable<Search['local']>): Candidate | undefined {
    const moves = genes.moved(search.ask());
    const showing = this.tried(moves);
    search.tell(showing?.reached.has(goal) ? Number.NEGATIVE_INFINITY : (showing?.distances.get(goal)?.measure ?? Number.POSITIVE_INFINITY));
    const candidate = showing && this.keep(moves, showing);
    if (search.isOver || this.reached.has(goal)) this.local = undefined;
    return candidate;
  }

  /** What the run of a case with some moves shows, or nothing where it cannot be a case. */
  showing(moves: readonly Move[], stopNs = this.stopNs): Showing | undefined {
    return this.made(this.document(moves, stopNs));
  }

  /** The same while it is looked for: all wires are ready to be faulty in it, so that all cases of the search share one program. */
  private tried(moves: readonly Move[]): Showing | undefined {
    const raw = this.document(moves, this.stopNs);
    const ready = this.movables.filter(({ kind }) => kind === 'wire').map(({ name }): RawStep => ({ fault: { on: name, over: true } }));
    return this.made(ready.length > 0 ? { ...raw, script: [...ready, ...(raw.script ?? [])] } : raw);
  }

  /** @returns nothing where it cannot be a case, which counts as a run all the same: a search ends after so many */
  private made(raw: RawCase): Showing | undefined {
    this.runs += 1;
    const found = caseSaying(this.project, this.template, raw);
    return 'faults' in found ? undefined : showingOf(this.project, found.test);
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

  private take(moves: readonly Move[]): Candidate | undefined {
    const showing = this.tried(moves);
    return showing && this.keep(moves, showing);
  }

  /** Keeps what reaches something new, and what comes nearer to breaking a criterion than anything before. */
  private keep(moves: readonly Move[], showing: Showing): Candidate | undefined {
    const events = [...new Set([...showing.outcome.trace.marks.time].map((t) => Math.round(t * 1e9)))].slice(0, mostEvents);
    const candidate = { moves, stopNs: this.stopNs, reached: showing.reached, events };
    for (const goal of this.goals) {
      if (goal.kind === 'broken' && showing.reached.has(goal.id.replace('broken', 'triggered'))) this.tries.set(goal.id, this.triesOf(goal.id) + 1);
      const margin = this.isSought(goal) ? showing.distances.get(goal.id) : undefined;
      if (margin && margin.measure < (this.nearest.get(goal.id)?.margin.measure ?? Number.POSITIVE_INFINITY))
        this.nearest.set(goal.id, { candidate, margin, searched: 0 });
    }
    const isNew = this.goals.some(({ id }) => showing.reached.has(id) && !this.reached.has(id));
    if (!isNew && this.found.length > 0) return undefined;
    for (const id of showing.reached) this.reached.add(id);
    // The newest come first: what has just opened something up is changed further most often.
    this.found.unshift(candidate);
    return candidate;
  }

  private any<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.stream.next() * list.length)];
  }

  /** One to four changes of a case. */
  private changed(parent: Candidate | undefined): Move[] {
    let moves = [...(parent?.moves ?? [])];
    const count = 1 + Math.floor(this.stream.next() * 4);
    for (let change = 0; change < count; change += 1) moves = this.changedOnce(moves, parent?.events ?? []);
    return moves.slice(0, mostMoves);
  }

  private changedOnce(moves: readonly Move[], events: readonly number[]): Move[] {
    const at = Math.floor(this.stream.next() * moves.length);
    const move = moves[at];
    const u = this.stream.next();
    if (!move || u < 0.5) return [...moves, ...this.drawn(events)];
    if (u < 0.6) return moves.filter((_, index) => index !== at);
    if (u < 0.8) return moves.map((one, index) => (index === at ? { ...one, atNs: this.time(events) } : one));
    const of = this.movables.find(({ name }) => name === move.name);
    if (u < 0.9 && of && move.value !== undefined)
      return moves.map((one, index) => (index === at ? { ...one, value: drawnValue(of, this.stream) } : one));
    const other = this.any(this.found);
    const cut = this.time(events);
    return [...moves.filter((one) => one.atNs <= cut), ...(other?.moves ?? []).filter((one) => one.atNs > cut)];
  }

  /** A further move: of a truth it may be a press, of a number a ramp. */
  private drawn(events: readonly number[]): Move[] {
    // Wires are many, and a fault of one is the exception.
    const free = this.movables.filter(({ kind }) => kind !== 'wire');
    const of = this.any(free.length > 0 && this.stream.next() < 0.75 ? free : this.movables);
    if (!of) return [];
    const atNs = this.time(events);
    if (of.kind === 'message') return [{ atNs, name: of.name }];
    if (of.kind === 'wire') return this.faulty(of, atNs);
    if (of.kind === 'parameter') return [{ atNs: 0, name: of.name, value: drawnValue(of, this.stream) }];
    const value = drawnValue(of, this.stream);
    const laterNs = Math.min(this.stopNs, atNs + roundTime(10 ** (9 + 2 * this.stream.next())));
    if (of.kind === 'truth' && this.stream.next() < 0.5) return pressed(of, atNs, atNs + 1e9);
    if (of.kind === 'real' && this.stream.next() < 0.4 && laterNs > atNs) return [{ atNs, name: of.name, value, untilNs: laterNs }];
    return [{ atNs, name: of.name, value }];
  }

  /** A wire that gets a fault, half of the time for good. */
  private faulty({ name }: Movable, atNs: number): Move[] {
    const fault: Move = { atNs, name, fault: this.stream.next() < 0.5 ? 'frozen' : 'lost' };
    const untilNs = atNs + roundTime(10 ** (9 + 2 * this.stream.next()));
    return this.stream.next() < 0.5 || untilNs >= this.stopNs ? [fault] : [fault, { atNs: untilNs, name, fault: 'over' }];
  }

  /** At the beginning, at or soon after something that happened, or anywhere. */
  private time(events: readonly number[]): number {
    const u = this.stream.next();
    const event = this.any(events);
    if (u < 0.15) return 0;
    if (u < 0.75 && event !== undefined) return Math.min(this.stopNs, event + roundTime(10 ** (8 + 2.5 * this.stream.next())));
    return roundTime(this.stream.next() * this.stopNs);
  }

  /** Sets the free inputs that the guard of a transition nobody has taken names to what it asks for, while the state it starts in is active. */
  private towardsTransition(): Move[] | undefined {
    const startOf = ({ source }: WantedTransition): Candidate | undefined =>
      this.found.find(({ reached }) => [...reached].some((id) => id.startsWith('state ') && id.endsWith(` ${source}`)));
    const open = this.transitions.filter((one) => !this.isTaken(one.id) && startOf(one));
    // Each in its turn: some cannot be taken as things stand.
    const fewest = Math.min(...open.map((one) => one.tried));
    const wanted = this.any(open.filter((one) => one.tried === fewest));
    const parent = wanted && startOf(wanted);
    if (!wanted || !parent) return undefined;
    wanted.tried += 1;
    const showing = this.tried(parent.moves);
    const entered = showing && whenActive(showing, wanted.mark, this.stopNs);
    const span = entered && this.any(entered);
    if (!span) return undefined;
    const [from, until] = span;
    const atNs = roundUp(from + Math.floor(this.stream.next() ** 2 * Math.min(until - from, 60e9)));
    const before = parent.moves.filter((one) => one.atNs < atNs);
    return [
      ...before,
      ...wanted.inputs.flatMap(({ name, value }): Move[] => (value ? pressed({ name }, atNs, atNs + 1e9) : [{ atNs, name, value: false }])),
    ];
  }

  /** Sets a free input that an open criterion names, between two things that happen in a run. */
  private towardsCriterion(parent: Candidate | undefined): Move[] | undefined {
    const open = [...this.inputsNamed].filter(([id]) => this.isOpen(id));
    const sought = open.filter(([id]) => this.goals.some((goal) => goal.id === `broken ${id}` && this.isSought(goal)));
    const of = this.any(this.any(sought.length > 0 && this.stream.next() < 0.7 ? sought : open)?.[1] ?? []);
    if (!of || !parent) return undefined;
    const times = [0, ...parent.events, this.stopNs];
    const index = Math.floor(this.stream.next() * (times.length - 1));
    const [from, until] = [times[index] as number, times[index + 1] as number];
    const atNs = roundUp(from + Math.floor(this.stream.next() ** 2 * (until - from)));
    const value = drawnValue(of, this.stream);
    return [...parent.moves, ...(of.kind === 'truth' ? pressed(of, atNs, atNs + 1e9) : [{ atNs, name: of.name, value }])].slice(-mostMoves);
  }

  /** A criterion that is to be triggered or broken, and is not yet. */
  private isOpen(criterion: string): boolean {
    return this.goals.some(
      (goal) => (goal.id === `triggered ${criterion}` || (this.isSought(goal) && goal.id === `broken ${criterion}`)) && !this.reached.has(goal.id),
    );
  }

  private isTaken(id: string): boolean {
    return [...this.reached].some((one) => one.startsWith('transition ') && one.includes(id));
  }
}

function pressed({ name }: { readonly name: string }, atNs: number, untilNs: number): Move[] {
  return [
    { atNs, name, value: true },
    { atNs: untilNs, name, value: false },
  ];
}

function roundUp(ns: number): number {
  return Math.ceil(ns / 1e8) * 1e8;
}
