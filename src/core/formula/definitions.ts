import type { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import { constant } from '@/core/plan';
import type { RawDefinitions } from '@/core/shapes';
import { findUnit, unitAdvice } from '@/core/units';
import type { ReadDocument } from '@/core/yaml';
import type { TypeLibrary } from './typeLibrary';
import type { Found } from './typing';

/**
 * Names that every formula of a project may use, by `nameKey`: constants, and values of enumerations (also as Type#Value).
 * A text stands for a name that several enumerations have: it says what it may mean.
 */
export type Definitions = ReadonlyMap<string, Found | string>;

/** Shared definitions of a project: its own document, and the enumerations of its library. */
export function definitionsOf(
  read: { readonly document: ReadDocument; readonly raw: RawDefinitions } | undefined,
  library: TypeLibrary,
  faults: Faults,
): Definitions {
  const names = new Map<string, Found | string>();
  const place = (...path: string[]) => read?.document.place(path) ?? { file: 'definitions.yaml', line: 1, column: 1 };
  for (const [name, { value, unit }] of Object.entries(read?.raw.constants ?? {})) {
    if (unit !== undefined && !findUnit(unit))
      faults.add('unknown-unit', place('constants', name, 'unit'), `"${unit}" is not a unit.`, unitAdvice(unit));
    if (names.has(nameKey(name)))
      faults.add('duplicate-name', place('constants', name), `The name "${name}" is defined twice.`, 'Rename one of the two.');
    const node = constant(typeof value === 'boolean' ? 'BOOL' : 'LREAL', Number(value));
    names.set(nameKey(name), { node, ...(unit === undefined ? {} : { unit }) });
  }
  const meant = new Map<string, string[]>();
  for (const enumeration of library.enumerations())
    for (const [index, value] of enumeration.values.entries()) {
      const [key, full] = [nameKey(value), `${enumeration.name}#${value}`];
      const found: Found = { node: constant('INT', index), enumeration };
      const all = [...(meant.get(key) ?? []), full];
      const isConstant = names.has(key) && !meant.has(key);
      if (isConstant)
        faults.add(
          'duplicate-name',
          place('constants', value),
          `The constant "${value}" has the name of a value of ${enumeration.name}.`,
          'Rename one of the two.',
        );
      else names.set(key, all.length === 1 ? found : `"${value}" could be ${all.join(' or ')}.`);
      meant.set(key, all);
      names.set(nameKey(full), found);
    }
  return names;
}
