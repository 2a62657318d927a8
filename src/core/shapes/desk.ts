import Joi from 'joi';
import { type DeskStep, deskStepShape } from './case';
import { listOf, object, oneOf, required, type Shape } from './shape';
import { name, numeric, type Scalar, scalar, text, title, truth, whole } from './values';

const controlForms = ['slider', 'number', 'switch', 'momentary', 'choice'] as const;
const displayForms = ['figure', 'lamp', 'bar', 'dial', 'lane', 'x-y', 'table'] as const;
export type ControlForm = (typeof controlForms)[number];
export type DisplayForm = (typeof displayForms)[number];

/** One control or display of a desk. */
export interface DeskItem {
  readonly signal: string;
  readonly as: ControlForm | DisplayForm;
  /** Of an x-y display: the signal along the other axis. */
  readonly with?: string;
  readonly min?: number;
  readonly max?: number;
  readonly decimals?: number;
  /** Of a control: its value at the start. */
  readonly start?: Scalar;
}

export interface DeskButton {
  readonly button: string;
  readonly do: readonly DeskStep[];
}

/** desks/*.yaml: controls and displays for one loop. */
export interface RawDesk {
  readonly desk: string;
  readonly about?: string;
  readonly loop: string;
  readonly variant?: string;
  /** A case whose parameters and start values the desk begins with. */
  readonly start_from?: string;
  readonly requirements?: readonly string[];
  readonly items: readonly DeskItem[];
  readonly buttons?: readonly DeskButton[];
}

/**
 * How a part of a scene's picture follows a signal: an attribute goes with its value along a straight line, from the span `from` (by default the limits of the signal)
 * to the span `to`; or the part is shown while it is TRUE; or its text is the value.
 */
export interface SceneMove {
  readonly part: string;
  readonly by: string;
  readonly set?: 'x' | 'y' | 'width' | 'height' | 'opacity' | 'turn' | 'along' | 'up';
  readonly from?: readonly [number, number];
  readonly to?: readonly [number, number];
  readonly show?: boolean;
  readonly text?: boolean;
}

/** scenes/*.yaml: a picture whose parts move with the signals of a loop. */
export interface RawScene {
  readonly scene: string;
  readonly about?: string;
  readonly loop: string;
  /** File name under scenes/. */
  readonly picture: string;
  readonly moves: readonly SceneMove[];
}

const item = object<DeskItem>({
  signal: required(text),
  as: required(oneOf(...controlForms, ...displayForms)),
  with: text,
  min: numeric,
  max: numeric,
  decimals: whole(0, 9),
  start: scalar,
});

const button = object<DeskButton>({ button: required(title(100)), do: required(listOf(deskStepShape, (schema) => schema.min(1))) });

export const deskShape = object<RawDesk>({
  desk: required(title(200)),
  about: text,
  loop: required(name),
  variant: name,
  start_from: text,
  requirements: listOf(text),
  items: required(listOf(item, (schema) => schema.max(200))),
  buttons: listOf(button),
});

const span: Shape<readonly [number, number]> = { joi: Joi.array().items(Joi.number()).length(2) };

const move = object<SceneMove>(
  {
    part: required(text),
    by: required(text),
    set: oneOf('x', 'y', 'width', 'height', 'opacity', 'turn', 'along', 'up'),
    from: span,
    to: span,
    show: truth,
    text: truth,
  },
  (schema) => schema.xor('set', 'show', 'text').with('set', 'to').messages({ 'object.missing': 'must say set:, show: or text: true' }),
);

export const sceneShape = object<RawScene>({
  scene: required(title(200)),
  about: text,
  loop: required(name),
  picture: required(text),
  moves: required(listOf(move, (schema) => schema.min(1))),
});
