import type { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import { constant } from '@/core/plan';
import type { RawDefinitions } from '@/core/shapes';
import { findUnit } from '@/core/units';
import type { ReadDocument } from '@/core/yaml';
import type { TypeLibrary } from './typeLibrary';
import type { Found } from './typing';

/** Names that every formula of a project may use, by `nameKey`: constants, and values of enumerations (also as Type#Value). */
export type Definitions = ReadonlyMap<string, Found>;

/** Shared definitions of a project: its own document, and the enumerations of its Structured Text. */
export function definitionsOf(
  read: { readonly document: ReadDocument; readonly raw: RawDefinitions } | undefined,
  library: TypeLibrary,
  faults: Faults,
): Definitions {
  const names = new Map<string, Found>();
  const take = (name: string, found: Found, path: readonly string[]): void => {
    const key = nameKey(name);
    if (!names.has(key)) names.set(key, found);
    else if (read) faults.add('duplicate-name', read.document.place(path), `The name "${name}" is defined twice.`, 'Rename one of the two.');
  };
  for (const [name, { value, unit }] of Object.entries(read?.raw.constants ?? {})) {
    const path = ['constants', name];
    if (unit !== undefined && !findUnit(unit))
      faults.add('unknown-unit', read?.document.place([...path, 'unit']) ?? start, `"${unit}" is not a unit.`, 'Write it as in UCUM: m, mm/s, kPa.');
    take(name, { node: constant(typeof value === 'boolean' ? 'BOOL' : 'LREAL', Number(value)), ...(unit === undefined ? {} : { unit }) }, path);
  }
  const enumerate = (type: string, values: readonly string[], path: readonly string[]): void => {
    values.forEach((value, index) => {
      const found: Found = { node: constant('INT', index) };
      take(value, found, path);
      names.set(nameKey(`${type}#${value}`), found);
    });
  };
  for (const [type, values] of Object.entries(read?.raw.enumerations ?? {})) enumerate(type, values, ['enumerations', type]);
  for (const { name, values } of library.enumerations())
    for (const [index, value] of values.entries()) {
      const found: Found = { node: constant('INT', index) };
      for (const key of [nameKey(value), nameKey(`${name}#${value}`)]) if (!names.has(key)) names.set(key, found);
    }
  return names;
}

const start = { file: 'definitions.yaml', line: 1, column: 1 };
