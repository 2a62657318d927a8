import type { ValueType } from '@/core/plan';
import { behaviourShape, type RawBehaviour } from './behaviour';
import { messagesShape, type RawMessage, sharedByCharts } from './chart';
import { inputShape, outputShape, parameterShape, type RawPort } from './port';
import { listOf, object, remembered, required } from './shape';
import { formula, type Named, name, named, type Scalar, text, truth } from './values';

/** A port whose type is known. */
export type TypedPort = RawPort & { readonly type: ValueType };
export type RawParameter = RawPort & { readonly value: Scalar };

/** components/*.yaml */
export interface RawComponent {
  readonly component: string;
  /** One that comes along, or the name of a file under pictures/. */
  readonly picture?: string;
  /** Limits of its outputs are real: end stops of an actuator, the range of a sensor. */
  readonly end_stops?: boolean;
  readonly about?: string;
  readonly inputs?: Named<TypedPort>;
  readonly outputs?: Named<TypedPort>;
  readonly parameters?: Named<RawParameter>;
  /** What has to hold between parameters, with the author's words for it. */
  readonly constraints?: readonly { readonly holds: Scalar; readonly message?: string }[];
  readonly messages?: { readonly in?: Named<RawMessage | null>; readonly out?: Named<RawMessage | null> };
  readonly behaviour: RawBehaviour;
}

export const componentShape = object<RawComponent>(
  {
    component: required(name),
    about: text,
    picture: text,
    end_stops: truth,
    inputs: remembered(named(inputShape)),
    outputs: remembered(named(outputShape)),
    parameters: remembered(named(parameterShape)),
    constraints: listOf(object<{ readonly holds: Scalar; readonly message?: string }>({ holds: required(formula), message: text })),
    messages: object<NonNullable<RawComponent['messages']>>({ in: messagesShape, out: messagesShape }),
    behaviour: required(behaviourShape),
  },
  (schema) => sharedByCharts.reduce((shared, one) => shared.shared(one), schema),
);
