import type { Enumeration, InputChange, Node, Plan, Site, SlotNumber, ValueType } from '@/core/plan';
import type { RawChannelFault } from '@/core/shapes';

/** One step of a case's script. */
export type ScriptStep =
  | { readonly k: 'set'; readonly changes: readonly { readonly input: number; readonly value: number }[] }
  /** `message` is an index into `Plan.messages`. */
  | { readonly k: 'send'; readonly message: number; readonly value: number }
  /** `condition` is an index into `Experiment.conditions`. */
  | { readonly k: 'wait'; readonly condition: number; readonly giveUpNs: number; readonly text: string }
  /** A condition that has to hold within a time; whether it does is an obligation of the case, and the script goes on either way. */
  | ExpectStep
  /** Parameters get other values. */
  | { readonly k: 'change'; readonly changes: readonly { readonly slot: SlotNumber; readonly value: number }[] }
  /** A wire gets a fault, or is rid of it. */
  | FaultStep
  /** A channel of a bench gets a fault; nothing at other stages. */
  | { readonly k: 'bench'; readonly fault: RawChannelFault; readonly text: string }
  /** Lines of steps side by side; over when all are. */
  | { readonly k: 'together'; readonly lines: readonly (readonly ScriptStep[])[] }
  | { readonly k: 'hold'; readonly ns: number };

interface FaultStep {
  readonly k: 'fault';
  /** What the slots of the wire become. */
  readonly sets: readonly { readonly slot: SlotNumber; readonly value: number }[];
  /** A slot that gets the value another one has at this instant. */
  readonly keeps?: { readonly slot: SlotNumber; readonly from: SlotNumber };
  readonly text: string;
}

interface ExpectStep {
  readonly k: 'expect';
  /** Index into `Experiment.conditions`. */
  readonly condition: number;
  readonly withinNs: number;
  readonly text: string;
}

/** What became of something a script expected. */
export interface Expectation {
  readonly step: ExpectStep;
  readonly text: string;
  readonly fromNs: number;
  readonly atNs: number;
  readonly outcome: 'met' | 'broken' | 'open';
}

/** When a run ends before its time: indices into `Experiment.conditions`. */
export interface EndCondition {
  readonly condition: number;
  /** For each condition of a wait, the one that holds where it or the end does. */
  readonly withWait: readonly number[];
}

/** From `atNs` on an input swings about its value: amplitude · sin(2π (phase + τ (frequency + rate τ / 2))), τ in seconds since then. An amplitude of 0 ends it. */
export interface WaveChange {
  readonly atNs: number;
  /** Index into `Plan.inputs`. */
  readonly input: number;
  readonly amplitude: number;
  /** Hz at its begin. */
  readonly frequency: number;
  /** Hz per second. */
  readonly rate: number;
  /** Turns, at its begin. */
  readonly phase: number;
}

/** A random walk of an input, drawn with the seed of the run. */
export interface Walk {
  /** Number of the stream of random numbers it draws from. */
  readonly stream: number;
  readonly input: number;
  readonly fromNs: number;
  readonly untilNs: number;
  readonly everyNs: number;
  readonly start: number;
  /** Largest step. */
  readonly step: number;
  readonly low: number;
  readonly high: number;
}

/** What a run has to know of a host that does tasks of its plan (`HostedWork`). */
export interface HostTable {
  /** Fingerprint of the build it runs. */
  readonly build: string;
  /** How many values its tasks exchange at most. */
  readonly room: number;
  /** Slots whose values it gets before the first hit, in its own order. */
  readonly begun: readonly SlotNumber[];
  /** Marks as the host numbers them, and as the plan does. */
  readonly marks: readonly (readonly [own: number, mark: number])[];
  /** Messages it sends: how it marks one, and who gets it (indices into `Plan.messages`). */
  readonly sends: readonly { readonly mark: number; readonly to: readonly number[] }[];
  /** The places its run-time errors come from. */
  readonly sites: readonly Site[];
  /** Of a co-simulation unit: the component it stands for. It gets its values from the steps of units. */
  readonly unit?: string;
  /** Of a controller on a bench: what goes over its wires. */
  readonly bench?: BenchTable;
}

/** What a bench exchanges with its controller. It takes the values of the inputs, parameters, of each channel the kind of its fault and how much, and that of the bus; it gives outputs, regions, what was read and what was written, and how late it was (s, by the clock of the loop). */
export interface BenchTable {
  readonly cycleNs: number;
  /** How many times faster than the wall's the clock goes. */
  readonly speed: number;
  /** How late a cycle may begin, by the clock on the wall. */
  readonly latenessNs: number;
  readonly inputs: readonly BenchChannel[];
  readonly outputs: readonly BenchChannel[];
  /** Names, in the order of their registers. */
  readonly parameters: readonly string[];
  /** Of each region its states, by the marks of the build. */
  readonly regions: readonly (readonly number[])[];
}

/** How a value stands in a register of the field bus. */
export interface BenchChannel {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  readonly register: number;
  /** Of a measured number: the values at the ends of its range, and how many bits a count has. */
  readonly low: number;
  readonly high: number;
  readonly bits: 12 | 16;
  /** Counts at these ends; 0 and the last one unless said. */
  readonly counts?: readonly [number, number];
  /** Time constant of the filter of an input (ms); 0 for none. */
  readonly filterMs: number;
  /** Whose values they are; people read and write their names, the register has their number. */
  readonly enumeration?: Enumeration;
}

/** Compiled code, or a controller, that does tasks of a plan. */
export interface Host {
  /** The memory in which values go out and come back, for so many of them. */
  room(count: number): Float64Array;
  /** Starts anew, with the values of the slots `HostTable.begun`. */
  begin(values: Float64Array): void;
  /** Does a task of its own at a hit, with what stands in that memory: places as in `hostedPlaces`. */
  hit(task: number, hit: number): void;
}

/** Everything one run depends on, as plain data: the same experiment gives the same trace everywhere. */
export interface Experiment {
  readonly case: string;
  readonly plan: Plan;
  readonly stopNs: number;
  readonly seed: number;
  /** Start values that replace the plan's: parameters of this case. */
  readonly overrides: readonly (readonly [SlotNumber, number])[];
  /** Start values of continuous states that replace their formulas. */
  readonly initial: readonly (readonly [SlotNumber, number])[];
  /** In order of time. */
  readonly stimuli: readonly InputChange[];
  /** In order of time; none unless said, as of walks. */
  readonly waves?: readonly WaveChange[];
  readonly walks?: readonly Walk[];
  readonly script: readonly ScriptStep[];
  readonly conditions: readonly Node[];
  readonly end?: EndCondition;
  /** A condition that is always TRUE, where steps stand side by side (`ScriptRunner`). */
  readonly always?: number;
  /** Who does the tasks that the plan leaves to hosts, by their number. */
  readonly hosts?: readonly HostTable[];
  /** Count the outcomes of all decisions. */
  readonly coverage?: boolean;
}

/** Something done by hand while a run goes on, at an instant of it. */
export type HandEvent = { readonly atNs: number } & (
  | { readonly k: 'set'; readonly input: number; readonly value: number }
  | { readonly k: 'send'; readonly message: number; readonly value: number }
  /** A parameter gets another value. */
  | { readonly k: 'tune'; readonly slot: SlotNumber; readonly value: number }
);

/** A run that could not go on. */
export interface RunError {
  readonly at: number;
  readonly message: string;
}

/** An output of a plant that stood at a limit which is no end stop. */
export interface Clipped {
  readonly signal: string;
  /** How long, in seconds. */
  readonly seconds: number;
  readonly message: string;
}

/** A declared range that was left. */
export interface Implausible {
  readonly signal: string;
  readonly at: number;
  readonly value: number;
  readonly message: string;
}
