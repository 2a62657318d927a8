import { assign, type Clause, type ConditionTree, constant, holds, type Node, type SiteNumber, type SlotNumber, type Work } from '@/core/plan';
import type { RawState } from '@/core/shapes';

/** One region while a chart is read: exactly one of its states is active, or none. */
export interface ChartRegion {
  readonly name: string;
  readonly slot: SlotNumber;
  /** Number of the transition chosen in the present microstep (1 …), 0 for none. */
  readonly choice: SlotNumber;
  readonly parent: ChartState | undefined;
  readonly states: ChartState[];
  /** Stands for its one state: no transition can take place within it. */
  readonly wraps: boolean;
  initial: ChartEntrance;
}

/** Where a transition leads by default, and what is done on the way. */
export interface ChartEntrance {
  targets: readonly ChartTarget[];
  action: Work[];
}

export interface ChartState {
  readonly k: 'state';
  readonly names: readonly string[];
  readonly path: string[];
  readonly raw: RawState;
  readonly region: ChartRegion;
  /** Value of the region's slot while this state is active. */
  readonly number: number;
  readonly mark: number;
  /** Hit at which it was entered last. */
  readonly since: SlotNumber;
  readonly regions: ChartRegion[];
  readonly histories: ChartHistory[];
  entry: Work[];
  stay: Work[];
  exit: Work[];
  readonly transitions: ChartTransition[];
  /** Some transition counts the time since entry. */
  timed?: boolean;
  /** Messages told once it, as a final state, has been entered. */
  done: Work[];
}

/** Stands for what was active in its state when that was left last. */
export interface ChartHistory {
  readonly k: 'history';
  readonly name: string;
  readonly path: string[];
  readonly owner: ChartState;
  /** For each region remembered: the number of the state that was active, 0 before the first time. */
  readonly memory: ReadonlyMap<ChartRegion, SlotNumber>;
  readonly deep: boolean;
  fallback: ChartEntrance;
}

export type ChartTarget = ChartState | ChartHistory;

export interface ChartTransition {
  readonly source: ChartState;
  readonly guard: Node;
  /** The guard in parts that must all be TRUE. */
  readonly clauses: readonly Clause[];
  /** The guard as a tree of conditions. */
  readonly tree: ConditionTree;
  /** When the guard is asked, unless always. */
  readonly askedWhen?: Node;
  readonly site: SiteNumber;
  readonly action: readonly Work[];
  /** None: only the action runs. */
  readonly targets: readonly ChartTarget[];
  /** Regions whose active states are left and in which the targets are entered. */
  readonly domain?: readonly ChartRegion[];
}

/** The chart's own states, inside out: the state a target lies in, and everything around it. */
export function ancestry(target: ChartTarget): ChartState[] {
  const states: ChartState[] = [];
  for (let at: ChartState | undefined = target.k === 'state' ? target : target.owner; at; at = at.region.parent) states.push(at);
  return states;
}

/** A target lies somewhere in a region. */
export function isWithin(target: ChartTarget, region: ChartRegion): boolean {
  if (target.k === 'history' && target.owner.regions.includes(region)) return true;
  for (let at: ChartState | undefined = target.k === 'state' ? target : target.owner; at; at = at.region.parent)
    if (at.region === region) return true;
  return false;
}

/** Never active together: they are different states of one region, or lie in such. */
export function excludes(a: ChartState, b: ChartState): boolean {
  for (let one: ChartState | undefined = a; one; one = one.region.parent)
    for (let other: ChartState | undefined = b; other; other = other.region.parent) if (one !== other && one.region === other.region) return true;
  return false;
}

/** Two domains share states: a region of one lies in one of the other. Asked of every two transitions of a chart, so that it makes nothing new. */
export function overlap(a: readonly ChartRegion[], b: readonly ChartRegion[]): boolean {
  for (const one of a) for (const other of b) if (liesIn(one, other) || liesIn(other, one)) return true;
  return false;
}

function liesIn(inner: ChartRegion, outer: ChartRegion): boolean {
  return inner === outer || (inner.parent !== undefined && isWithin(inner.parent, outer));
}

/** All regions in a state, at any depth, in order of the text. */
export function regionsIn(state: ChartState): ChartRegion[] {
  return state.regions.flatMap((region) => [region, ...region.states.flatMap(regionsIn)]);
}

export function activeNode(state: Pick<ChartState, 'number' | 'region'>): Node {
  return holds(state.region.slot, state.number);
}

export function set(slot: SlotNumber, value: number): Work {
  return assign(slot, constant('LREAL', value));
}
