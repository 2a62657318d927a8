import { arithmetic } from './arithmetic';
import { dynamic } from './dynamic';
import type { Element } from './element';
import { sampledElements, sources } from './sampled';

export type { Element, Settings } from './element';

/** The element library of networks, as it is presented. */
export const elementGroups: Readonly<Record<string, Readonly<Record<string, Element>>>> = {
  'Numbers without a memory': arithmetic,
  'What follows a differential equation': dynamic,
  'Logic, comparisons, and what remembers from hit to hit': sampledElements,
  'Sources over time': sources,
};

/** Elements by name. */
export const elements: ReadonlyMap<string, Element> = new Map(Object.values(elementGroups).flatMap((group) => Object.entries(group)));

export function elementNames(): string[] {
  return [...elements.keys()];
}
