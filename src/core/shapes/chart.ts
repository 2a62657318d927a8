import Joi from 'joi';
import { type RawPort, variableShape } from './port';
import { either, link, listOf, object, oneOf, remembered, required, type Shape } from './shape';
import { atLeastOne, duration, formula, type Named, named, type Scalar, text, truth } from './values';

/** One state, or several in regions side by side. */
export type RawTargets = string | readonly string[];

export interface RawTransition {
  readonly to?: RawTargets;
  /** Messages it waits for; `door`, `door.*` and `*` take all that begin so. */
  readonly on?: string | readonly string[];
  readonly when?: Scalar;
  readonly after?: Scalar;
  readonly do?: string;
  /** A transition to a state inside the source does not leave the source. */
  readonly internal?: boolean;
  readonly about?: string;
}

/** A pseudo-state that stands for what was active in its state when it was left last. */
export interface RawHistory {
  readonly deep?: boolean;
  readonly default: RawTargets;
  readonly do?: string;
  readonly about?: string;
}

export interface RawState {
  readonly about?: string;
  readonly entry?: string;
  readonly stay?: string;
  readonly exit?: string;
  readonly final?: boolean;
  readonly go?: readonly RawTransition[];
  readonly initial?: RawTargets;
  /** Statements between the state's own entry and that of its initial state. */
  readonly initial_do?: string;
  readonly states?: Named<RawState>;
  readonly regions?: Named<RawRegion>;
  readonly history?: Named<RawHistory>;
}

export interface RawRegion {
  readonly about?: string;
  readonly initial: RawTargets;
  readonly initial_do?: string;
  readonly states: Named<RawState>;
  /** The region stands for its one state and is no state by itself, as in SCXML. */
  readonly wraps?: boolean;
}

export interface RawChart {
  readonly kind: 'chart';
  readonly period?: string | number;
  readonly offset?: string | number;
  readonly variables?: Named<RawPort>;
  readonly regions: Named<RawRegion>;
  /** Statements that run before the first state is entered. */
  readonly prologue?: string;
  /** Guards may name a state without what is around it, as where names are unique. */
  readonly bareStates?: boolean;
}

/** A message of a face; with a type it carries a value. */
export interface RawMessage {
  readonly about?: string;
  readonly type?: 'LREAL';
  readonly unit?: string;
}

const oneOrMore = either([text, listOf(text, (schema) => schema.min(1))]);

const transition = object<RawTransition>(
  { to: oneOrMore, on: oneOrMore, when: formula, after: formula, do: text, internal: truth, about: text },
  (schema) => schema.or('on', 'when', 'after').messages({ 'object.missing': 'a transition needs "on", "when" or "after"' }),
);

const history = object<RawHistory>({ deep: truth, default: required(oneOrMore), do: text, about: text });

const statesLink = link<Named<RawState>>('statesShape');
const regionsLink = link<Named<RawRegion>>('regionsShape');

const state = object<RawState>(
  {
    about: text,
    entry: text,
    stay: text,
    exit: text,
    final: truth,
    go: listOf(transition),
    initial: oneOrMore,
    initial_do: text,
    states: statesLink,
    regions: regionsLink,
    history: named(history),
  },
  (schema) => schema.oxor('states', 'regions').with('states', 'initial').id('stateShape'),
);

const region = object<Omit<RawRegion, 'wraps'>>(
  { about: text, initial: required(oneOrMore), initial_do: text, states: required(statesLink) },
  (schema) => schema.id('regionShape'),
);

const states = named(remembered(link('stateShape')), atLeastOne);
const regions = named(remembered(link('regionShape')), atLeastOne);

/** What a shape with a chart in it has to share, so that states can hold states. */
export const sharedByCharts: readonly Joi.Schema[] = [state.joi, states.joi.id('statesShape'), region.joi, regions.joi.id('regionsShape')];

export const chartShape = object<Omit<RawChart, 'prologue' | 'bareStates'>>({
  kind: required(oneOf('chart')),
  period: duration,
  offset: duration,
  variables: remembered(named(variableShape)),
  regions: required(regionsLink),
});

const message = object<RawMessage>({ about: text, type: oneOf('LREAL'), unit: text });

export const messagesShape: Shape<Named<RawMessage | null>> = {
  joi: Joi.object()
    .pattern(Joi.string().pattern(/^[A-Za-z]\w*(\.\w+)*$/), message.joi.allow(null))
    .messages({ 'object.unknown': '"{#label}" is not a name of a message' }),
};
