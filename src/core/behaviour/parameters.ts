import type { ComponentDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { declare, readValue } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import type { Scalar } from '@/core/shapes';
import type { Path, ReadDocument } from '@/core/yaml';
import { defaultType } from './instance';

/** Parameter values of an instance by `nameKey`: those of the face, and over them those given where it is used. @param bound parameters that have their value from elsewhere */
export function parameterValues(
  name: string,
  component: ComponentDocument,
  given: Readonly<Record<string, Scalar>>,
  document: ReadDocument,
  path: Path,
  faults: Faults,
  bound: { has(parameter: string): boolean } = new Set(),
): Map<string, number> {
  const declared = component.raw.parameters ?? {};
  const values = new Map<string, number>();
  for (const [parameter, raw] of Object.entries(declared)) {
    const limits = declare(`${component.raw.component}.${parameter}`, raw, defaultType(raw.value));
    const value = readValue(raw.value, limits, component.document.place(['parameters', parameter, 'value']), faults);
    if (value !== undefined) values.set(nameKey(parameter), value);
  }
  for (const [parameter, value] of Object.entries(given)) {
    const entry = Object.entries(declared).find(([key]) => nameKey(key) === nameKey(parameter));
    if (!entry) {
      const near = nearestName(parameter, Object.keys(declared));
      faults.add(
        'unknown-name',
        document.keyPlace([...path, parameter]),
        `${component.raw.component} has no parameter "${parameter}".`,
        near ? `Did you mean "${near}"?` : 'Remove it, or declare it in the component.',
      );
      continue;
    }
    if (bound.has(nameKey(entry[0]))) continue;
    const limits = declare(`${name}.${entry[0]}`, entry[1], defaultType(entry[1].value));
    const number = readValue(value, limits, document.place([...path, parameter]), faults);
    if (number !== undefined) values.set(nameKey(parameter), number);
  }
  return values;
}
