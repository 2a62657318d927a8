import type { SearchSettings } from '@/core/design';

/** An option that may be given several times. */
export const severally = (one: string, before: readonly string[] = []): readonly string[] => [...before, one];

/** Where a search for cases may set more than the free inputs. */
export const varyOption = {
  flags: '--vary <name>',
  words: 'a parameter or the start of a state that may have another value, between its limits (several times); plant: all parameters of the plant',
};

/** What may have other values, from what was given of the option. */
export function variedIn(names: readonly string[] = []): NonNullable<SearchSettings['vary']> {
  return names.includes('plant') ? 'plant' : names;
}
