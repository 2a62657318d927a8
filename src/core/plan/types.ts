import type { SolverMethod } from './methods';
import type { NumericFunction } from './numericFunctions';

/**
 * The plan: the one intermediate form. Everything a run depends on is here as flat, typed slots and ordered work;
 * past this point no name is looked up. Plain data only, so that it can be hashed, stored and sent to a worker.
 */

/** Elementary types of IEC 61131-3. BOOL is kept as 0 or 1, TIME as whole nanoseconds. */
export const valueTypes = ['BOOL', 'SINT', 'USINT', 'INT', 'UINT', 'DINT', 'UDINT', 'REAL', 'LREAL', 'TIME'] as const;
export type ValueType = (typeof valueTypes)[number];

/** A type whose values have names, counted from 0. One that is written where a variable is declared has no name of its own (''). */
export interface Enumeration {
  readonly name: string;
  readonly values: readonly string[];
}

export type SlotNumber = number;
/** Index into `Plan.sites`. */
export type SiteNumber = number;

export interface Slot {
  /** Full name, `component.signal`; for messages and the catalogue only. */
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  readonly start: number;
  readonly min?: number;
  readonly max?: number;
  readonly enumeration?: Enumeration;
}

/** Place in the user's text to which a run-time error is traced back. */
export interface Site {
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly text: string;
}

/** A typed expression. */
export type Node =
  | { readonly k: 'const'; readonly type: ValueType; readonly value: number }
  | { readonly k: 'slot'; readonly type: ValueType; readonly slot: SlotNumber }
  /** Element of an array that lies in `count` slots from `base` on; its first index is `first`. */
  | (ArrayPlace & { readonly k: 'element'; readonly type: ValueType; readonly index: Node; readonly site: SiteNumber })
  /** Simulation time in seconds. */
  | { readonly k: 'time'; readonly type: 'LREAL' }
  /** Number of the present hit of the task, from 0. */
  | { readonly k: 'hit'; readonly type: 'LREAL' }
  | { readonly k: 'negate'; readonly type: ValueType; readonly a: Node; readonly site: SiteNumber }
  | { readonly k: 'not'; readonly type: 'BOOL'; readonly a: Node }
  | {
      readonly k: 'arithmetic';
      readonly type: ValueType;
      readonly operator: '+' | '-' | '*' | '/' | 'MOD' | '**';
      readonly a: Node;
      readonly b: Node;
      readonly site: SiteNumber;
    }
  | { readonly k: 'compare'; readonly type: 'BOOL'; readonly operator: '<' | '<=' | '>' | '>=' | '=' | '<>'; readonly a: Node; readonly b: Node }
  | { readonly k: 'logic'; readonly type: 'BOOL'; readonly operator: 'AND' | 'OR' | 'XOR'; readonly a: Node; readonly b: Node }
  | { readonly k: 'call'; readonly type: ValueType; readonly fn: NumericFunction; readonly operands: readonly Node[]; readonly site: SiteNumber }
  /** A function of the project, by its index in `Plan.functions`. */
  | { readonly k: 'apply'; readonly type: ValueType; readonly fn: number; readonly operands: readonly Node[] }
  /** A random number: uniform in [0, 1), or normal with mean 0 and deviation 1. Each place has a stream of its own, so that no order of evaluation matters. */
  | { readonly k: 'draw'; readonly type: 'LREAL'; readonly how: 'uniform' | 'normal'; readonly state: SlotNumber }
  | { readonly k: 'select'; readonly type: ValueType; readonly condition: Node; readonly yes: Node; readonly no: Node }
  /** A whole number that ends the run when it lies outside. */
  | { readonly k: 'check'; readonly type: ValueType; readonly a: Node; readonly low: number; readonly high: number; readonly site: SiteNumber }
  /** Conversion between types: implicit widening, rounding to nearest with ties to even, or towards zero. */
  | { readonly k: 'convert'; readonly type: ValueType; readonly how: 'widen' | 'round' | 'truncate'; readonly a: Node; readonly site: SiteNumber };

/** Slots side by side. */
export interface ArrayPlace {
  readonly base: SlotNumber;
  readonly first: number;
  readonly count: number;
}

/** A piece of sampled work. */
export type Work =
  | { readonly k: 'set'; readonly slot: SlotNumber; readonly value: Node }
  | (ArrayPlace & { readonly k: 'set element'; readonly index: Node; readonly value: Node; readonly site: SiteNumber })
  /** Repeats its body until it is left; all loops of a hit share one budget. */
  | { readonly k: 'loop'; readonly label: number; readonly body: readonly Work[]; readonly site: SiteNumber }
  /** Work that can be left before its end. */
  | { readonly k: 'block'; readonly label: number; readonly body: readonly Work[] }
  | { readonly k: 'leave'; readonly label: number }
  | { readonly k: 'if'; readonly condition: Node; readonly yes: readonly Work[]; readonly no: readonly Work[] }
  | HostedWork
  /** Ends the run when it is reached. */
  | { readonly k: 'fail'; readonly why: 'queue full'; readonly site: SiteNumber }
  /** Notes in the trace that a chart's state is entered or left, or that a message is sent (entered). */
  | { readonly k: 'mark'; readonly state: number; readonly entered: boolean }
  /** Repeats `body` until it leaves `again` at 0; more than `limit` times is a livelock. */
  | { readonly k: 'settle'; readonly again: SlotNumber; readonly body: readonly Work[]; readonly limit: number; readonly site: SiteNumber };

/** Work that is done elsewhere, by compiled code or a controller: it is given values, and gives back those of slots. */
export interface HostedWork {
  readonly k: 'hosted';
  /** Which host does it, and the number of the task there. */
  readonly host: number;
  readonly task: number;
  readonly takes: readonly Node[];
  readonly gives: readonly SlotNumber[];
}

/** A variable of a co-simulation unit, by the number and the type by which it is asked for there. */
export interface UnitPin {
  readonly name: string;
  readonly reference: number;
  readonly kind: string;
}

/**
 * A co-simulation unit in the place of a component: at each hit it gives out what it has reached (a hosted task, whose host is the unit's number in the plan);
 * once everything of that instant is done, it reads its inputs and goes on by a period.
 */
export interface PlanUnit {
  readonly component: string;
  /** Path in the project, and SHA-256 of the archive. */
  readonly file: string;
  readonly hash: string;
  readonly periodNs: number;
  readonly offsetNs: number;
  readonly inputs: readonly (UnitPin & { readonly value: Node })[];
  readonly outputs: readonly (UnitPin & { readonly slot: SlotNumber })[];
  /** Set before the first step. */
  readonly parameters: readonly (UnitPin & { readonly slot: SlotNumber })[];
}

/**
 * A function of the project. A call puts the operands into slots of the function's own, sets its other variables to their start values, works, and leaves the
 * result in a slot: nothing is kept from call to call, and no function comes to call itself.
 */
export interface PlanFunction {
  readonly name: string;
  readonly operands: readonly SlotNumber[];
  readonly locals: readonly SlotNumber[];
  readonly result: SlotNumber;
  readonly work: readonly Work[];
}

/** An output that a saturation keeps within bounds, in a component whose bounds are no end stops. */
export interface Limited {
  readonly slot: SlotNumber;
  /** What is limited. */
  readonly inside: Node;
  readonly low: number;
  readonly high: number;
}

/** A span of a signal in which the plant has been compared with the thing itself. */
export interface Trusted {
  readonly slot: SlotNumber;
  readonly low: number;
  readonly high: number;
  readonly because: string;
}

export interface Assignment {
  readonly slot: SlotNumber;
  readonly value: Node;
}

/** Free input of continuous or sampled parts: value = base + slope × (t − since); BOOL and integers have no slope. */
export interface FreeInput {
  readonly name: string;
  readonly slot: SlotNumber;
  readonly base: SlotNumber;
  readonly slope?: SlotNumber;
  readonly since?: SlotNumber;
}

/** A change of a free input: from `atNs` on its value is value + slope × (t − at). */
export interface InputChange {
  readonly atNs: number;
  /** Index into `Plan.inputs`. */
  readonly input: number;
  readonly value: number;
  /** Per second. */
  readonly slope: number;
}

/** A condition on continuous values whose rise is located between steps; at that instant slots take new values, all from those before. */
export interface Crossing {
  readonly condition: Node;
  /** It happens at the start, too, where the condition holds then; without this nothing has happened yet. */
  readonly fromStart?: true;
  readonly sets: readonly Assignment[];
  readonly site: SiteNumber;
}

export interface Task {
  readonly component: string;
  readonly periodNs: number;
  readonly offsetNs: number;
  readonly work: readonly Work[];
  /** Slots published at each hit and written to the trace. */
  readonly logged: readonly SlotNumber[];
}

/** One region of a chart: its slot holds the number of the active state, 0 for none. */
export interface RegionInfo {
  readonly slot: SlotNumber;
  readonly name: string;
  /** `states[i]` is active when the slot holds i + 1. */
  readonly states: readonly { readonly name: string; readonly mark: number }[];
}

/** One of the parts of a guard that must all be TRUE. */
export interface Clause {
  readonly text: string;
  readonly node: Node;
}

/** A transition of a chart, for those who ask why it was not taken; nothing is computed from it in a run. */
export interface TransitionInfo {
  readonly chart: string;
  /** Full name of the state it starts in, and its targets as written ('' for none). */
  readonly source: string;
  readonly to: string;
  readonly site: SiteNumber;
  readonly active: Node;
  readonly clauses: readonly Clause[];
  /** While it is the one chosen, the slot holds the number. */
  readonly choice: SlotNumber;
  readonly number: number;
}

/** What a decision depends on: conditions, each TRUE or FALSE by itself, and how they are joined. */
export type ConditionTree =
  | { readonly k: 'condition'; readonly text: string; readonly node: Node }
  | { readonly k: 'not'; readonly of: ConditionTree }
  | { readonly k: 'and' | 'or' | 'xor'; readonly a: ConditionTree; readonly b: ConditionTree };

/** A decision that somebody has written, for those who ask what came out of it; nothing is computed from it in a run. */
export interface DecisionInfo {
  readonly component: string;
  /** A guard of a transition, a condition of Structured Text, a row of a decision table; or that a chosen transition gives way to another. */
  readonly kind: 'guard' | 'branch' | 'row' | 'gives way';
  readonly site: SiteNumber;
  readonly tree: ConditionTree;
  /** When its conditions make the outcome, unless always. */
  readonly askedWhen?: Node;
  /** Its place among all decisions of the plan (`decisionsOf`). */
  readonly number: number;
  /** Of a guard: the transition, by its slot of choices and its number there. */
  readonly transition?: { readonly choice: SlotNumber; readonly number: number };
}

/** Where an element of a sampled network may stand, or an end of the declared range of a free input, for those who ask whether it ever did; nothing is computed from it in a run. */
export interface PositionInfo {
  /** Full name of the element, or name of the input. */
  readonly component: string;
  readonly isLimit?: true;
  readonly text: string;
  /** TRUE while it stands there; of signals that are in the trace. */
  readonly node: Node;
}

/** What a component of the loop has to do with the others, for those who let it run elsewhere; nothing is computed from it in a run. */
export interface FaceInfo {
  readonly component: string;
  /** What its inputs get, by the name of the input alone. */
  readonly inputs: readonly { readonly name: string; readonly value: Node }[];
  readonly outputs: readonly { readonly name: string; readonly slot: SlotNumber }[];
  /** The messages it sends, and who gets them: indices into `Plan.messages`. */
  readonly sends: readonly { readonly name: string; readonly to: readonly number[] }[];
  /** Its work is left out while a signal is FALSE. */
  readonly isHeld: boolean;
}

/** Messages that wait for a component: a ring of their codes and of the values they carry, at most `codes.count` of them. */
export interface Queue {
  readonly codes: ArrayPlace;
  readonly values: ArrayPlace;
  /** Slot with the index of the first that waits. */
  readonly head: SlotNumber;
  /** Slot with the number of those that wait. */
  readonly waiting: SlotNumber;
}

/** A message a component takes, by its full name. */
export interface Message {
  readonly name: string;
  readonly queue: Queue;
  readonly code: number;
  /** Noted in the trace when it is sent. */
  readonly mark: number;
}

/** A state by its index in `Plan.states`; where one tolerance is missing, that of all states counts. The absolute one is in the unit of the state. */
export interface StateTolerance {
  readonly state: number;
  readonly relative?: number | undefined;
  readonly absolute?: number | undefined;
}

export interface Solver {
  readonly method: SolverMethod;
  /** Fixed methods: the step. Variable methods: the largest step. */
  readonly stepNs: number;
  readonly relativeTolerance: number;
  readonly absoluteTolerance: number;
  /** Variable methods: states held to tolerances of their own, by their index in `Plan.states`. */
  readonly ofStates?: readonly StateTolerance[] | undefined;
  /** Variable methods: rows at most so far apart, filled by dense output; 0 for accepted steps only. */
  readonly recordEveryNs: number;
}

/** A continuous value as it was some time ago. */
export interface Delay {
  /** Where what comes out stands. */
  readonly slot: SlotNumber;
  /** What goes in. */
  readonly of: Node;
  /** For how long (s); from parameters alone, as they are when the run begins. */
  readonly by: Node;
  /** What comes out until then; from parameters alone. */
  readonly start: Node;
}

export interface Plan {
  readonly loop: string;
  readonly slots: readonly Slot[];
  /** Slots that the plan keeps for itself, which nobody has declared. */
  readonly internal: readonly SlotNumber[];
  readonly sites: readonly Site[];
  readonly inputs: readonly FreeInput[];
  readonly parameters: readonly SlotNumber[];
  readonly states: readonly { readonly slot: SlotNumber; readonly derivative: Node; readonly start: Node }[];
  /** Continuous outputs and intermediate values, producers before consumers. */
  readonly assignments: readonly Assignment[];
  /** In data-flow order, producers before consumers. */
  readonly tasks: readonly Task[];
  /** Each stands behind those it calls. */
  readonly functions: readonly PlanFunction[];
  readonly regions: readonly RegionInfo[];
  readonly transitions: readonly TransitionInfo[];
  readonly decisions: readonly DecisionInfo[];
  readonly positions: readonly PositionInfo[];
  readonly messages: readonly Message[];
  readonly faces: readonly FaceInfo[];
  readonly crossings: readonly Crossing[];
  /** Absent when there are none. */
  readonly delays?: readonly Delay[];
  /** Co-simulation units among the components, the number of each that of its host. Absent when there are none. */
  readonly units?: readonly PlanUnit[];
  /** Slots that hold the state of a stream of random numbers. */
  readonly draws: readonly SlotNumber[];
  /** What recordings play, in order of time. */
  readonly played: readonly InputChange[];
  /** For the question how long a plant was kept believable by its limits; nothing is computed from it in a run. */
  readonly limited: readonly Limited[];
  /** Spans in which the plant is trusted; a run that leaves one gives no pass. Absent when nothing is said. */
  readonly trusted?: readonly Trusted[];
  /** Continuous slots written to the trace. */
  readonly logged: readonly SlotNumber[];
  readonly solver: Solver;
  readonly stopNs: number;
}
