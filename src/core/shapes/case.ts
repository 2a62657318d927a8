import Joi from 'joi';
import { channelFaultShape, type RawChannelFault } from './bench';
import { ownSolverShape, type RawOwnSolver } from './loop';
import { byKey, listOf, object, oneOf, pairOf, required, tupleOf } from './shape';
import {
  anyText,
  atLeastOne,
  byText,
  duration,
  formula,
  type Named,
  name,
  numeric,
  onlyTrue,
  positive,
  type Scalar,
  scalar,
  text,
  title,
  whole,
} from './values';

type Time = string | number;

interface Hold {
  readonly hold: Scalar;
}
interface Step {
  readonly step: Scalar;
  readonly at: Time;
}
interface Ramp {
  readonly ramp: Scalar;
  readonly from: Time;
  readonly until: Time;
}
interface Pulse {
  readonly pulse: Scalar;
  readonly at: Time;
  readonly width: Time;
  readonly period?: Time;
  readonly count?: number;
}
interface Sine {
  /** Amplitude. */
  readonly sine: number;
  readonly from: Time;
  readonly until: Time;
  readonly period: Time;
  /** Where in its period it begins. */
  readonly shift?: Time;
}
interface Chirp {
  /** Amplitude. */
  readonly chirp: number;
  readonly from: Time;
  readonly until: Time;
  /** Periods at its begin and at its end; the frequency goes evenly from one to the other. */
  readonly periods: readonly [Time, Time];
}
interface Walk {
  /** Largest step. */
  readonly walk: number;
  readonly from: Time;
  readonly until: Time;
  readonly every: Time;
  readonly within: readonly [number, number];
}
interface Table {
  readonly table: readonly (readonly [Time, Scalar])[];
  readonly between?: 'straight' | 'held';
}
interface Played {
  readonly recording: string;
  readonly column: string;
  /** When its time 0 is. */
  readonly from?: Time;
}

/** Pieces of a free input's course by the key that tells which one it is. */
interface Pieces {
  readonly hold: Hold;
  readonly step: Step;
  readonly ramp: Ramp;
  readonly pulse: Pulse;
  readonly sine: Sine;
  readonly chirp: Chirp;
  readonly walk: Walk;
  readonly table: Table;
  readonly recording: Played;
}
export type RawPiece = Pieces[keyof Pieces];

interface SetStep {
  readonly set: Named<Scalar>;
}
interface SendStep {
  readonly send: string;
  readonly value?: number;
}
interface HoldStep {
  readonly hold: string | number;
}
interface WaitStep {
  readonly wait: { readonly until: Scalar; readonly give_up_after: string | number };
}

interface ExpectStep {
  readonly expect: { readonly holds: Scalar; readonly within: Time };
}
/** Parameters that get other values during the run. */
interface ChangeStep {
  readonly change: Named<Scalar>;
}
/** An input of a component whose wire gets a fault, or is rid of it; by the key that tells which fault it is. */
interface WireFaults {
  readonly stuck: { readonly on: string; readonly stuck: Scalar };
  /** Stuck at the value of the moment. */
  readonly frozen: { readonly on: string; readonly frozen: boolean };
  readonly lost: { readonly on: string; readonly lost: boolean };
  readonly offset: { readonly on: string; readonly offset: number };
  /** Standard deviation. */
  readonly noise: { readonly on: string; readonly noise: number };
  readonly delayed: { readonly on: string; readonly delayed: Time };
  readonly over: { readonly on: string; readonly over: boolean };
}
export type RawFault = WireFaults[keyof WireFaults];
interface FaultStep {
  readonly fault: RawFault;
}
/** A fault of the bench; it is one there alone. */
interface BenchStep {
  readonly bench: RawChannelFault;
}
/** Lines of steps side by side. */
interface TogetherStep {
  readonly together: readonly (readonly InnerStep[])[];
}

/** Steps by the key that tells which one it is. */
interface InnerSteps {
  readonly set: SetStep;
  readonly send: SendStep;
  readonly wait: WaitStep;
  readonly expect: ExpectStep;
  readonly change: ChangeStep;
  readonly fault: FaultStep;
  readonly bench: BenchStep;
  readonly hold: HoldStep;
}
type InnerStep = InnerSteps[keyof InnerSteps];

/** Steps of a script; lines side by side hold no such lines themselves. */
interface Steps extends InnerSteps {
  readonly together: TogetherStep;
}
export type RawStep = Steps[keyof Steps];

/** Steps of a button on a desk, which cannot wait. */
type DeskSteps = Pick<Steps, 'set' | 'send' | 'hold'>;
export type DeskStep = DeskSteps[keyof DeskSteps];

/** A case with all that it takes over from the case it is like. */
export interface RawCase extends Omit<WrittenCase, 'loop' | 'like'> {
  readonly loop: string;
}

/** cases/*.yaml */
export interface WrittenCase {
  readonly case: string;
  readonly about?: string;
  readonly loop?: string;
  /** Another case, which holds where this one says nothing. */
  readonly like?: string;
  readonly tags?: readonly string[];
  readonly variant?: string;
  readonly stop?: string | number;
  /** Ends the run where a condition holds, and anyhow at a time. */
  readonly end?: { readonly when: Scalar; readonly at_most: string | number };
  /** How long a run of it may take, by the clock on the wall. */
  readonly time_limit?: string | number;
  readonly seed?: number;
  /** Settings over those of the loop. */
  readonly solver?: RawOwnSolver;
  /** Named sets of values, in order; the case's own values count over them. */
  readonly parameter_sets?: readonly string[];
  readonly parameters?: Named<Scalar>;
  readonly initial?: Named<Scalar>;
  readonly stimuli?: Named<readonly RawPiece[]>;
  readonly script?: readonly RawStep[];
  readonly meant_for?: readonly string[];
  /** Of a case that was derived: what for, how, and from which seed. */
  readonly made?: { readonly for: readonly string[]; readonly by: string; readonly seed: number };
}

const set = object<SetStep>({ set: required(byText(scalar, atLeastOne)) });
const send = object<SendStep>({ send: required(text), value: numeric });
const hold = object<HoldStep>({ hold: required(duration) });
const wait = object<WaitStep>({ wait: required(object<WaitStep['wait']>({ until: required(formula), give_up_after: required(duration) })) });

const expect = object<ExpectStep>({ expect: required(object<ExpectStep['expect']>({ holds: required(formula), within: required(duration) })) });
const change = object<ChangeStep>({ change: required(byText(scalar, atLeastOne)) });
const on = required(text);
const wireFault = byKey<WireFaults>(
  {
    stuck: object<WireFaults['stuck']>({ on, stuck: required(scalar) }),
    frozen: object<WireFaults['frozen']>({ on, frozen: required(onlyTrue) }),
    lost: object<WireFaults['lost']>({ on, lost: required(onlyTrue) }),
    offset: object<WireFaults['offset']>({ on, offset: required(numeric) }),
    noise: object<WireFaults['noise']>({ on, noise: required(positive()) }),
    delayed: object<WireFaults['delayed']>({ on, delayed: required(duration) }),
    over: object<WireFaults['over']>({ on, over: required(onlyTrue) }),
  },
  'must say on: and one of stuck: with a value, frozen: true, lost: true, offset:, noise:, delayed: with a duration, over: true',
);
const fault = object<FaultStep>({ fault: required(wireFault) });
const bench = object<BenchStep>({ bench: required(channelFaultShape) });
const inner = { set, send, wait, expect, change, fault, bench, hold };
const innerWords =
  'set:, send: message, wait: with until: and give_up_after:, expect: with holds: and within:, change:, fault: with on:, bench: with channel: or bus:, hold: with a duration';
const innerStep = byKey<InnerSteps>(inner, `must say one of ${innerWords}`);
const together = object<TogetherStep>({
  together: required(
    listOf(
      listOf(innerStep, (schema) => schema.min(1)),
      (schema) => schema.min(2),
    ),
  ),
});

const step = byKey<Steps>({ ...inner, together }, `must say one of ${innerWords}, or together: with lists of such steps`);
export const deskStepShape = byKey<DeskSteps>({ set, send, hold }, 'must say set:, or send: message, or hold: with a duration');

const span = { from: required(duration), until: required(duration) };

const piece = byKey<Pieces>(
  {
    hold: object<Hold>({ hold: required(scalar) }),
    step: object<Step>({ step: required(scalar), at: required(duration) }),
    ramp: object<Ramp>({ ramp: required(scalar), ...span }),
    pulse: object<Pulse>({
      pulse: required(scalar),
      at: required(duration),
      width: required(duration),
      period: duration,
      count: whole(1, 1_000_000),
    }),
    sine: object<Sine>({ sine: required(numeric), ...span, period: required(duration), shift: duration }),
    chirp: object<Chirp>({ chirp: required(numeric), ...span, periods: required(pairOf(duration)) }),
    walk: object<Walk>({ walk: required(positive()), ...span, every: required(duration), within: required(pairOf(numeric)) }),
    table: object<Table>({ table: required(listOf(tupleOf(duration, scalar), (schema) => schema.min(1))), between: oneOf('straight', 'held') }),
    recording: object<Played>({ recording: required(text), column: required(text), from: duration }),
  },
  'must be hold, step, ramp, pulse, sine, chirp, walk, table or recording, with the keys that go with it',
);

export const caseShape = object<WrittenCase>(
  {
    case: required(title(200)),
    about: text,
    loop: name,
    like: title(200),
    tags: listOf(title(50)),
    variant: name,
    stop: duration,
    end: object<NonNullable<WrittenCase['end']>>({ when: required(formula), at_most: required(duration) }),
    time_limit: duration,
    seed: whole(0, 2 ** 32 - 1),
    solver: ownSolverShape,
    parameter_sets: listOf(text),
    parameters: byText(scalar),
    initial: byText(scalar),
    stimuli: byText(listOf(piece, (schema) => schema.min(1))),
    script: listOf(step),
    meant_for: listOf(anyText),
    made: object<NonNullable<WrittenCase['made']>>({ for: required(listOf(anyText)), by: required(anyText), seed: required(whole(0, 2 ** 32 - 1)) }),
  },
  (schema) => schema.when(Joi.object({ like: Joi.exist() }).unknown(), { otherwise: Joi.object({ loop: Joi.required() }) }),
);
