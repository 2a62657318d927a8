import type { RawLoop } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';

interface LoopText {
  readonly document: ReadDocument;
  readonly raw: RawLoop;
}

/** Each variant of a loop as a loop of its own, named `loop/variant`: other components stand in some of the places, all else is the same. */
export function variantsOf({ document, raw }: LoopText): LoopText[] {
  return Object.entries(raw.variants ?? {}).map(([name, { components }]) => ({
    document: redirected(document, name, components),
    raw: { ...raw, loop: `${raw.loop}/${name}`, components: { ...raw.components, ...components } },
  }));
}

/** Faults of a component that the variant brings are told where the variant names it. */
function redirected(document: ReadDocument, variant: string, components: Readonly<Record<string, unknown>>): ReadDocument {
  const path = (at: readonly (string | number)[]): readonly (string | number)[] =>
    at[0] === 'components' && Object.hasOwn(components, String(at[1])) ? ['variants', variant, ...at] : at;
  return {
    ...document,
    place: (at) => document.place(path(at)),
    keyPlace: (at) => document.keyPlace(path(at)),
    placesWithin: (at) => document.placesWithin(path(at)),
  };
}
