import { nameKey } from '@/core/language';
import type { Enumeration, ValueType } from '@/core/plan';

/** What a type is called in a sentence: `Mode`, or its values where it has no name. */
export function typeWords({ name, values }: Enumeration): string {
  return name || `(${values.join(', ')})`;
}

/** The number of a value of an enumeration, by `Value` or `Type#Value`; nothing for what is none. */
export function numberOfValue(text: string, { name, values }: Enumeration): number | undefined {
  const key = nameKey(text.trim());
  const index = values.findIndex((one) => nameKey(one) === key || nameKey(`${name}#${one}`) === key);
  return index < 0 ? undefined : index;
}

/** Types of one name are one; where one has none, they are if their values are. */
export function sameEnumeration(a: Enumeration | undefined, b: Enumeration | undefined): boolean {
  if (!a || !b) return a === b;
  return a.name && b.name ? nameKey(a.name) === nameKey(b.name) : nameKey(a.values.join()) === nameKey(b.values.join());
}

/** A value of one kind may come where the other is declared, as far as enumerations go: those of an enumeration are whole numbers, but no other number is one of its values. */
export function enumerationSuits(from: { readonly enumeration?: Enumeration }, to: { readonly enumeration?: Enumeration }): boolean {
  return !to.enumeration || sameEnumeration(from.enumeration, to.enumeration);
}

/** What a value is, for a sentence: the name of its enumeration, or its elementary type. */
export function kindWords({ type, enumeration }: { readonly type: ValueType; readonly enumeration?: Enumeration }): string {
  return enumeration ? typeWords(enumeration) : type;
}

/** The enumeration of what has one, to be spread into what takes it over. */
export function enumerated({ enumeration }: { readonly enumeration?: Enumeration }): { readonly enumeration?: Enumeration } {
  return enumeration ? { enumeration } : {};
}
