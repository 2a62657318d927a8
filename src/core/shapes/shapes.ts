import Joi from 'joi';
import { isIdentifier } from '@/core/language';
import { Recent } from '@/core/memory';
import { fixedMethods, valueTypes, variableMethods } from '@/core/plan';

/**
 * Shapes of the documents of a project, before any meaning: which keys there are and what kind of value they hold.
 * Meaning (names, types, units, limits) is checked in core/formula, core/behaviour and core/loop.
 */

const text = Joi.string().max(100_000);
/** What a thing is called, in any script: one line, without characters that nobody can see. */
const title = (longest: number) =>
  Joi.string()
    .max(longest)
    .pattern(/^[^\p{Cc}\p{Cs}\u2028\u2029\uFFFE\uFFFF]+$/u, 'title')
    .messages({
      'string.pattern.name': 'a name is one line of visible characters',
      'string.max': `a name has at most ${longest} characters`,
    });
const name = Joi.string()
  .custom((value: string, helpers) => (isIdentifier(value) ? value : helpers.error('name')))
  .messages({ name: '"{#value}" is not a name' });
const scalar = Joi.alternatives(Joi.number(), Joi.boolean(), Joi.string());
const formula = Joi.alternatives(Joi.string().max(1_000_000), Joi.number(), Joi.boolean());
const duration = Joi.alternatives(Joi.string(), Joi.number());
/**
 * The same shape, which knows the values it has found sound: of a document that is being typed all but one state or the face stay as they were, and the shape library is slow for their number.
 * Only sound values are known, so every message comes from the shape itself.
 */
const remembered = (shape: Joi.Schema): Joi.Schema => {
  const sound = new Recent<true>(mostRemembered);
  const isKnown = Joi.any().custom((value, helpers) => (sound.get(JSON.stringify(value)) ? value : helpers.error('any.invalid')));
  const note = (value: unknown): unknown => {
    sound.set(JSON.stringify(value), true);
    return value;
  };
  return Joi.alternatives().conditional(isKnown, { then: Joi.any(), otherwise: shape.custom(note) });
};
const mostRemembered = 1_000_000;
const named = (shape: Joi.Schema): Joi.ObjectSchema => Joi.object().pattern(name, shape);
const type = Joi.string().valid(...valueTypes);

const port = Joi.object({ type, unit: text, min: Joi.number(), max: Joi.number(), about: text.allow('') });
const parameter = port.keys({ value: scalar.required(), tuning: Joi.valid('fixed', 'live', 'exported') });
const variable = port.keys({ start: scalar });

const targets = Joi.alternatives(text, Joi.array().items(text).min(1));
const transition = Joi.object({
  to: targets,
  on: Joi.alternatives(text, Joi.array().items(text).min(1)),
  when: formula,
  after: formula,
  do: text,
  internal: Joi.boolean(),
  about: text,
})
  .or('on', 'when', 'after')
  .messages({ 'object.missing': 'a transition needs "on", "when" or "after"' });
const state = Joi.object({
  about: text,
  entry: text,
  stay: text,
  exit: text,
  final: Joi.boolean(),
  go: Joi.array().items(transition),
  initial: targets,
  initial_do: text,
  states: Joi.link('#statesShape'),
  regions: Joi.link('#regionsShape'),
  history: named(Joi.object({ deep: Joi.boolean(), default: targets.required(), do: text, about: text })),
})
  .oxor('states', 'regions')
  .with('states', 'initial')
  .id('stateShape');
const states = named(remembered(Joi.link('#stateShape')))
  .min(1)
  .id('statesShape');
const region = Joi.object({ about: text, initial: targets.required(), initial_do: text, states: Joi.link('#statesShape').required() }).id(
  'regionShape',
);
const regions = named(remembered(Joi.link('#regionShape')))
  .min(1)
  .min(1)
  .id('regionsShape');
const messages = Joi.object()
  .pattern(Joi.string().pattern(/^[A-Za-z]\w*(\.\w+)*$/), Joi.object({ about: text, type: Joi.valid('LREAL'), unit: text }).allow(null))
  .messages({ 'object.unknown': '"{#label}" is not a name of a message' });

const equations = Joi.object({
  kind: Joi.valid('equations').required(),
  states: named(Joi.object({ start: formula.required(), type: Joi.valid('LREAL'), unit: text, min: Joi.number(), max: Joi.number(), about: text })),
  let: named(formula),
  derivatives: named(formula),
  outputs: named(formula),
  events: Joi.array().items(Joi.object({ when: formula.required(), set: named(formula).min(1).required() })),
});
const recording = Joi.object({ kind: Joi.valid('recording').required(), file: text.required(), outputs: named(text) });
const chart = Joi.object({
  kind: Joi.valid('chart').required(),
  period: duration,
  offset: duration,
  variables: remembered(named(variable)),
  regions: Joi.link('#regionsShape').required(),
});

const routine = Joi.object({
  kind: Joi.valid('routine').required(),
  period: duration,
  offset: duration,
  body: Joi.string().max(1_000_000).required(),
});

const network = Joi.object({
  kind: Joi.valid('network').required(),
  period: duration,
  offset: duration,
  parts: named(
    Joi.object({
      use: name.required(),
      inputs: named(scalar),
      parameters: named(scalar),
      settings: Joi.object(),
      period: duration,
      offset: duration,
    }),
  )
    .min(1)
    .required(),
  outputs: named(text).min(1).required(),
});

const decisionTable = Joi.object({
  kind: Joi.valid('decision table').required(),
  period: duration,
  offset: duration,
  conditions: named(formula).min(1).max(12).required(),
  rules: Joi.array()
    .items(Joi.object({ when: named(scalar).required(), then: named(formula).min(1).required() }))
    .min(1)
    .max(500)
    .required(),
  otherwise: named(formula).min(1),
});

/** What a pragma in Structured Text may say: of a variable its unit, limits and explanation; of a function block its period and explanation. */
export const textNoteShape = Joi.object({ unit: text, min: Joi.number(), max: Joi.number(), about: text, period: duration, offset: duration });

export const componentShape = Joi.object({
  component: name.required(),
  about: text,
  picture: text,
  end_stops: Joi.boolean(),
  inputs: remembered(named(port.keys({ type: type.required() }))),
  outputs: remembered(named(port.keys({ type: type.required(), start: scalar }))),
  parameters: remembered(named(parameter)),
  constraints: Joi.array().items(Joi.object({ holds: formula.required(), message: text })),
  messages: Joi.object({ in: messages, out: messages }),
  behaviour: Joi.alternatives()
    .conditional('.kind', {
      switch: [
        { is: 'equations', then: equations },
        { is: 'chart', then: chart },
        { is: 'routine', then: routine },
        { is: 'network', then: network },
        { is: 'decision table', then: decisionTable },
        { is: 'recording', then: recording },
      ],
      otherwise: Joi.object({ kind: Joi.valid('equations', 'chart', 'routine', 'network', 'decision table', 'recording').required() }).unknown(),
    })
    .required(),
})
  .shared(state)
  .shared(states)
  .shared(region)
  .shared(regions);

const use = Joi.object({ use: name.required(), parameters: named(scalar), period: duration, offset: duration, enabled: text });

export const loopShape = Joi.object({
  loop: name.required(),
  about: text,
  components: named(use).min(1).required(),
  variants: named(Joi.object({ about: text, components: named(use).min(1).required() })),
  wires: Joi.array().items(Joi.object({ from: text.required(), to: Joi.alternatives(text, Joi.array().items(text)).required() })),
  inputs: named(Joi.object({ to: Joi.alternatives(text, Joi.array().items(text).min(1)).required(), start: scalar, about: text })),
  unused: Joi.array().items(text),
  parameter_sets: Joi.array().items(text),
  trusted: Joi.array().items(
    Joi.object({ signal: text.required(), from: Joi.number().required(), until: Joi.number().required(), because: text.required() }),
  ),
  solver: Joi.object({
    method: Joi.valid(...fixedMethods, ...variableMethods).required(),
    step: duration,
    relative_tolerance: Joi.number().positive().max(0.1),
    absolute_tolerance: Joi.number().positive(),
    tolerances: Joi.object().pattern(
      text,
      Joi.object({ relative: Joi.number().positive().max(0.1), absolute: Joi.number().positive() }).or('relative', 'absolute'),
    ),
    record_every: duration,
  }).required(),
  stop: duration.required(),
});

export const requirementsShape = Joi.object({
  section: title(200).required(),
  requirements: Joi.array()
    .required()
    .items(
      remembered(
        Joi.object({
          requirement: title(100).required(),
          text: text.required(),
          source: text,
          level: Joi.alternatives(text, Joi.number()),
          verify_by: Joi.valid('test', 'analysis', 'inspection', 'demonstration'),
          note: text,
          criteria: Joi.array().items(
            Joi.object({
              criterion: title(200).required(),
              sentence: text.required(),
              accepted: Joi.object({ by: text.required(), on: Joi.alternatives(text, Joi.date()).required() }),
            }),
          ),
          rejected: Joi.array().items(text),
          relations: Joi.array().items(Joi.object({ kind: Joi.valid('parent', 'derives', 'refines', 'conflicts').required(), to: text.required() })),
        }),
      ),
    ),
});

const breakpoint = Joi.alternatives(
  Joi.object({ hold: scalar.required() }),
  Joi.object({ step: scalar.required(), at: duration.required() }),
  Joi.object({ ramp: scalar.required(), from: duration.required(), until: duration.required() }),
).messages({ 'alternatives.match': 'must say hold: value, or step: value with at: time, or ramp: value with from: and until:' });
const step = Joi.alternatives(
  Joi.object({ set: Joi.object().pattern(text, scalar).min(1).required() }),
  Joi.object({ send: text.required(), value: Joi.number() }),
  Joi.object({ wait: Joi.object({ until: formula.required(), give_up_after: duration.required() }).required() }),
  Joi.object({ hold: duration.required() }),
).messages({ 'alternatives.match': 'must say set:, or send: message, or wait: with until: and give_up_after:, or hold: with a duration' });

export const caseShape = Joi.object({
  case: title(200).required(),
  about: text,
  loop: name.required(),
  variant: name,
  stop: duration,
  time_limit: duration,
  seed: Joi.number()
    .integer()
    .min(0)
    .max(2 ** 32 - 1),
  parameter_sets: Joi.array().items(text),
  parameters: Joi.object().pattern(text, scalar),
  initial: Joi.object().pattern(text, scalar),
  stimuli: Joi.object().pattern(text, Joi.array().items(breakpoint).min(1)),
  script: Joi.array().items(step),
  meant_for: Joi.array().items(Joi.string()),
});

export const controlForms = ['slider', 'number', 'switch', 'momentary', 'choice'] as const;
export const displayForms = ['figure', 'lamp', 'bar', 'dial', 'lane', 'x-y', 'table'] as const;

const deskStep = Joi.alternatives(
  Joi.object({ set: Joi.object().pattern(text, scalar).min(1).required() }),
  Joi.object({ send: text.required(), value: Joi.number() }),
  Joi.object({ hold: duration.required() }),
).messages({ 'alternatives.match': 'must say set:, or send: message, or hold: with a duration' });

/** desks/*.yaml: controls and displays for one loop. */
export const deskShape = Joi.object({
  desk: title(200).required(),
  about: text,
  loop: name.required(),
  variant: name,
  start_from: text,
  requirements: Joi.array().items(text),
  items: Joi.array()
    .items(
      Joi.object({
        signal: text.required(),
        as: Joi.valid(...controlForms, ...displayForms).required(),
        with: text,
        min: Joi.number(),
        max: Joi.number(),
        decimals: Joi.number().integer().min(0).max(9),
        start: scalar,
      }),
    )
    .max(200)
    .required(),
  buttons: Joi.array().items(Joi.object({ button: title(100).required(), do: Joi.array().items(deskStep).min(1).required() })),
});

const span = Joi.array().items(Joi.number()).length(2);
/** scenes/*.yaml: a picture whose parts move with the signals of a loop. */
export const sceneShape = Joi.object({
  scene: title(200).required(),
  about: text,
  loop: name.required(),
  picture: text.required(),
  moves: Joi.array()
    .items(
      Joi.object({
        part: text.required(),
        by: text.required(),
        set: Joi.valid('x', 'y', 'width', 'height', 'opacity', 'turn', 'along', 'up'),
        from: span,
        to: span,
        show: Joi.boolean(),
        text: Joi.boolean(),
      })
        .xor('set', 'show', 'text')
        .with('set', 'to')
        .messages({ 'object.missing': 'must say set:, show: or text: true' }),
    )
    .min(1)
    .required(),
});

export const parameterSetShape = Joi.object({
  parameter_set: title(200).required(),
  about: text,
  values: Joi.object().pattern(text, scalar).min(1).required(),
});

export const definitionsShape = Joi.object({
  constants: named(Joi.object({ value: Joi.alternatives(Joi.number(), Joi.boolean()).required(), unit: text, about: text })),
  enumerations: named(Joi.array().items(name).min(1)),
});

/** words.yaml: other names for signals and states, and words the house does not want in a requirement. */
export const wordsShape = Joi.object({
  synonyms: Joi.object().pattern(text, text),
  vague: Joi.object().pattern(text, text),
});

export const projectShape = Joi.object({ project: title(100).required(), about: text, level: text, stages: Joi.array().items(Joi.valid('model')) });
