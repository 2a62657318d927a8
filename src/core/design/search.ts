import { nameKey } from '@/core/language';
import { Stream, seedOfStream } from '@/core/numeric';
import { conditionsIn, type FreeInput, type Plan, type TransitionInfo } from '@/core/plan';
import { type CheckedCase, type CheckedProject, caseSaying } from '@/core/project';
import type { RawCase, RawStep } from '@/core/shapes';
import { type Goal, type GoalKind, goalsOf, type Showing, showingOf } from './goals';
import { caseOf, drawnValue, type Movable, type Move, movablesOf, roundTime } from './moves';

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
}

/** Most moves of a case. */
const mostMoves = 12;
const mostEvents = 200;

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

  /**
   * @param template any sound case of the loop: its loop, variant and values are those of the cases that are found, its stimuli and script are not
   * @param known cases that are there already: what they reach is reached
   */
  constructor(
    private readonly project: CheckedProject,
    private readonly template: CheckedCase,
    known: readonly CheckedCase[],
    settings: SearchSettings,
  ) {
    const loop = project.loops.get(template.loop);
    if (!loop) throw new RangeError(`there is no loop ${template.loop}`);
    const fixed = new Set((settings.fixed ?? []).map(nameKey));
    this.movables = movablesOf(loop, settings.withWires ?? false).filter(({ name }) => !fixed.has(nameKey(name)));
    this.stream = new Stream(seedOfStream(settings.seed, 0));
    this.stopNs = template.experiment.stopNs;
    this.goals = goalsOf(project, template, settings.kinds);
    this.transitions = wantedTransitions(loop.plan);
    for (const test of known) for (const id of showingOf(project, test).reached) this.reached.add(id);
    this.known = new Set(this.reached);
    this.take([]);
  }

  get left(): Goal[] {
    return this.goals.filter(({ id }) => !this.reached.has(id));
  }

  /** Makes one more run. @returns the case where it reaches something new */
  step(): Candidate | undefined {
    const parent = this.found[Math.floor(this.stream.next() ** 2 * this.found.length)] ?? this.found[0];
    const moves = this.stream.next() < 0.4 ? (this.towardsTransition() ?? this.changed(parent)) : this.changed(parent);
    return this.take(moves);
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
    const { raw } = this.template.document;
    const { variant, parameter_sets, parameters, initial, seed } = raw;
    const kept = Object.fromEntries(
      Object.entries({ variant, parameter_sets, parameters, initial, seed }).filter(([, value]) => value !== undefined),
    );
    const inTime = moves.filter((one) => one.atNs <= stopNs);
    return { ...kept, ...caseOf(raw.loop, raw.case, stopNs, inTime, this.movables) };
  }

  private take(moves: readonly Move[]): Candidate | undefined {
    const showing = this.tried(moves);
    if (!showing) return undefined;
    const isNew = this.goals.some(({ id }) => showing.reached.has(id) && !this.reached.has(id));
    if (!isNew && this.found.length > 0) return undefined;
    for (const id of showing.reached) this.reached.add(id);
    const events = [...new Set([...showing.outcome.trace.marks.time].map((t) => Math.round(t * 1e9)))].slice(0, mostEvents);
    const candidate = { moves, stopNs: this.stopNs, reached: showing.reached, events };
    // The newest come first: what has just opened something up is changed further most often.
    this.found.unshift(candidate);
    return candidate;
  }

  private any<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.stream.next() * list.length)];
  }

  /** One to three changes of a case. */
  private changed(parent: Candidate | undefined): Move[] {
    let moves = [...(parent?.moves ?? [])];
    const count = 1 + Math.floor(this.stream.next() * 3);
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
    const of = this.any(this.movables);
    if (!of) return [];
    const atNs = this.time(events);
    if (of.kind === 'message') return [{ atNs, name: of.name }];
    if (of.kind === 'wire') return this.faulty(of, atNs);
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
    const wanted = this.any(this.transitions.filter(({ id }) => !this.isTaken(id)));
    const parent = wanted && this.found.find(({ reached }) => [...reached].some((id) => id.startsWith('state ') && id.endsWith(` ${wanted.source}`)));
    if (!wanted || !parent) return undefined;
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

/** A transition with the free inputs that its guard names as truths, and what it asks of them. */
interface WantedTransition {
  /** As its goal has it. */
  readonly id: string;
  readonly source: string;
  readonly mark: number;
  readonly inputs: readonly { readonly name: string; readonly value: boolean }[];
}

function wantedTransitions(plan: Plan): WantedTransition[] {
  const inputs = new Map(plan.inputs.map((input) => [input.slot, input]));
  return plan.transitions.flatMap((info): WantedTransition[] => {
    const mark = plan.regions
      .flatMap(({ name, states }) => states.map((state) => ({ full: `${name}.${state.name}`, mark: state.mark })))
      .find(({ full }) => full === info.source)?.mark;
    const asked = mark === undefined ? [] : askedOf(plan, info, inputs);
    return asked.length === 0 || mark === undefined
      ? []
      : [{ id: `${info.source} to ${info.to || 'itself'} when`, source: info.source, mark, inputs: asked }];
  });
}

function askedOf(plan: Plan, info: TransitionInfo, inputs: ReadonlyMap<number, FreeInput>): WantedTransition['inputs'] {
  const guard = plan.decisions.find(
    ({ kind, transition }) => kind === 'guard' && transition?.choice === info.choice && transition.number === info.number,
  );
  return (guard ? conditionsIn(guard.tree) : []).flatMap(({ node }) => {
    const input = node.k === 'slot' && node.type === 'BOOL' ? inputs.get(node.slot) : undefined;
    return input ? [{ name: input.name, value: true }] : [];
  });
}

/** Stretches in which a state is active (ns). */
function whenActive({ outcome: { trace } }: Showing, mark: number, stopNs: number): (readonly [number, number])[] {
  const { time, mark: marks, entered } = trace.marks;
  const spans: [number, number][] = [];
  marks.forEach((one, index) => {
    if (one !== mark) return;
    const ns = Math.round((time[index] as number) * 1e9);
    if (entered[index] === 1) spans.push([ns, stopNs]);
    else if (spans.length > 0) (spans[spans.length - 1] as [number, number])[1] = ns;
  });
  return spans;
}
