import { arithmetic } from './arithmetic';
import { dynamic } from './dynamic';
import type { Element } from './element';
import { sampledElements, sources } from './sampled';

export type { Element, Settings } from './element';

/** The element library of networks, by name. */
export const elements: ReadonlyMap<string, Element> = new Map(Object.entries({ ...arithmetic, ...dynamic, ...sampledElements, ...sources }));

export function elementNames(): string[] {
  return [...elements.keys()];
}
