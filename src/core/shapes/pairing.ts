import { either, listOf, object, required } from './shape';
import { byText, type Named, name, text } from './values';

/** pairings/*.yaml: the controller of one loop in another, its host, by pairs of signals. What comes of it is a loop of its own. */
export interface RawPairing {
  /** Name of the loop that comes of it. */
  readonly pairing: string;
  readonly about?: string;
  /** The loop whose controller it is. */
  readonly controller: string;
  /** The loop that takes it in. */
  readonly host: string;
  /** Components of the host that make room; its own controller unless said. */
  readonly replaces?: readonly string[];
  /** Inputs of the controller, with the signals of the host that they get. */
  readonly inputs?: Named<string>;
  /** Outputs of the controller, with the inputs of the host that they drive. */
  readonly outputs?: Named<string | readonly string[]>;
  /** Outputs of the controller that drive nothing in this host. */
  readonly unused?: readonly string[];
}

export const pairingShape = object<RawPairing>({
  pairing: required(name),
  about: text,
  controller: required(text),
  host: required(text),
  replaces: listOf(text),
  inputs: byText(text),
  outputs: byText(either([text, listOf(text, (schema) => schema.min(1))])),
  unused: listOf(text),
});
