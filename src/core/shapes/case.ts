import { either, listOf, object, required } from './shape';
import { anyText, atLeastOne, byText, duration, formula, type Named, name, numeric, type Scalar, scalar, text, title, whole } from './values';

export type RawBreakpoint =
  | { readonly hold: Scalar }
  | { readonly step: Scalar; readonly at: string | number }
  | { readonly ramp: Scalar; readonly from: string | number; readonly until: string | number };

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

/** A step of a case's script. */
export type RawStep = SetStep | SendStep | WaitStep | HoldStep;

/** A step of a button on a desk, which cannot wait. */
export type DeskStep = SetStep | SendStep | HoldStep;

/** cases/*.yaml */
export interface RawCase {
  readonly case: string;
  readonly about?: string;
  readonly loop: string;
  readonly variant?: string;
  readonly stop?: string | number;
  /** How long a run of it may take, by the clock on the wall. */
  readonly time_limit?: string | number;
  readonly seed?: number;
  /** Named sets of values, in order; the case's own values count over them. */
  readonly parameter_sets?: readonly string[];
  readonly parameters?: Named<Scalar>;
  readonly initial?: Named<Scalar>;
  readonly stimuli?: Named<readonly RawBreakpoint[]>;
  readonly script?: readonly RawStep[];
  readonly meant_for?: readonly string[];
}

const set = object<SetStep>({ set: required(byText(scalar, atLeastOne)) });
const send = object<SendStep>({ send: required(text), value: numeric });
const hold = object<HoldStep>({ hold: required(duration) });
const wait = object<WaitStep>({ wait: required(object<WaitStep['wait']>({ until: required(formula), give_up_after: required(duration) })) });

const step = either([set, send, wait, hold], 'must say set:, or send: message, or wait: with until: and give_up_after:, or hold: with a duration');
export const deskStepShape = either([set, send, hold], 'must say set:, or send: message, or hold: with a duration');

const breakpoint = either(
  [
    object<{ readonly hold: Scalar }>({ hold: required(scalar) }),
    object<{ readonly step: Scalar; readonly at: string | number }>({ step: required(scalar), at: required(duration) }),
    object<{ readonly ramp: Scalar; readonly from: string | number; readonly until: string | number }>({
      ramp: required(scalar),
      from: required(duration),
      until: required(duration),
    }),
  ],
  'must say hold: value, or step: value with at: time, or ramp: value with from: and until:',
);

export const caseShape = object<RawCase>({
  case: required(title(200)),
  about: text,
  loop: required(name),
  variant: name,
  stop: duration,
  time_limit: duration,
  seed: whole(0, 2 ** 32 - 1),
  parameter_sets: listOf(text),
  parameters: byText(scalar),
  initial: byText(scalar),
  stimuli: byText(listOf(breakpoint, (schema) => schema.min(1))),
  script: listOf(step),
  meant_for: listOf(anyText),
});
