import type { Faults } from '@/core/fault';
import type { TypeLibrary } from '@/core/formula';
import { nearestName } from '@/core/language';
import { type Enumeration, valueTypes } from '@/core/plan';
import type { Named, RawComponent, RawPort } from '@/core/shapes';
import type { Path, ReadDocument } from '@/core/yaml';
import type { ComponentDocument } from './types';

/**
 * Puts enumerations in the place of their names under `type`: a port of such a type is an INT from 0 on whose values have names.
 * @returns nothing when a type is not known; that is told
 */
export function withEnumerations({ document, raw }: ComponentDocument, library: TypeLibrary, faults: Faults): ComponentDocument | undefined {
  const types = new Types(document, library, faults);
  const { inputs, outputs, parameters, behaviour } = raw;
  const variables = behaviour.kind === 'chart' ? types.ports(behaviour.variables, ['behaviour', 'variables']) : undefined;
  const resolved: RawComponent = {
    ...raw,
    ...(inputs ? { inputs: types.ports(inputs, ['inputs']) } : {}),
    ...(outputs ? { outputs: types.ports(outputs, ['outputs']) } : {}),
    ...(parameters ? { parameters: types.ports(parameters, ['parameters']) } : {}),
    ...(behaviour.kind === 'chart' && variables ? { behaviour: { ...behaviour, variables } } : {}),
  };
  if (types.areUnknown) return undefined;
  return types.areNamed ? { document, raw: resolved } : { document, raw };
}

class Types {
  areUnknown = false;
  areNamed = false;

  constructor(
    private readonly document: ReadDocument,
    private readonly library: TypeLibrary,
    private readonly faults: Faults,
  ) {}

  ports<T extends RawPort>(ports: Named<T>, path: Path): Named<T>;
  ports<T extends RawPort>(ports: Named<T> | undefined, path: Path): Named<T> | undefined;
  ports<T extends RawPort>(ports: Named<T> | undefined, path: Path): Named<T> | undefined {
    return ports && Object.fromEntries(Object.entries(ports).map(([name, port]) => [name, this.port(port, [...path, name])]));
  }

  private port<T extends RawPort>(port: T, path: Path): T {
    const type: string | undefined = port.type;
    if (type === undefined || valueTypes.some((one) => one === type)) return port;
    const enumeration = this.library.enumeration(type);
    if (enumeration) return this.named(port, enumeration, path);
    this.areUnknown = true;
    const near = nearestName(type, [...valueTypes, ...this.library.enumerations().map(({ name }) => name)]);
    this.faults.add(
      'unknown-name',
      this.document.place([...path, 'type']),
      `There is no type "${type}".`,
      near ? `Did you mean ${near}?` : `Use one of ${valueTypes.join(', ')}, or an enumeration of definitions.yaml.`,
    );
    return port;
  }

  private named<T extends RawPort>(port: T, enumeration: Enumeration, path: Path): T {
    this.areNamed = true;
    for (const key of ['unit', 'min', 'max'] as const)
      if (port[key] !== undefined)
        this.faults.add(
          'shape',
          this.document.place([...path, key]),
          `${enumeration.name} is an enumeration: it has no ${key === 'unit' ? 'unit' : 'limits'}.`,
          `Remove ${key}.`,
        );
    return { ...port, ...enumeratedPort(enumeration) };
  }
}

/** What a port of an enumeration is. */
export function enumeratedPort(enumeration: Enumeration): Pick<RawPort, 'min' | 'max' | 'enumeration'> & { readonly type: 'INT' } {
  return { type: 'INT', min: 0, max: enumeration.values.length - 1, enumeration };
}
