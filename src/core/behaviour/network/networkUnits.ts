import type { ComponentDocument, Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import type { RawNetwork, RawPart, Scalar } from '@/core/shapes';
import { inUnit, sameUnit, unitFix } from '@/core/units';
import { elements } from './elements';

/**
 * Checks units along the wires of a network, as far as they are known: elements that add, choose or compare want one unit at all their inputs, and those that add
 * or choose pass it on; behind others it is open. A number takes the unit of its place.
 */
export function checkNetworkUnits(component: ComponentDocument, behaviour: RawNetwork, project: Project, faults: Faults): void {
  new NetworkUnits(component, behaviour, project, faults).check();
}

class NetworkUnits {
  private readonly parts: ReadonlyMap<string, RawPart>;
  /** Parts whose unit is being asked for: a ring says nothing about itself. */
  private readonly asked = new Set<string>();

  constructor(
    private readonly component: ComponentDocument,
    private readonly behaviour: RawNetwork,
    private readonly project: Project,
    private readonly faults: Faults,
  ) {
    this.parts = new Map(Object.entries(behaviour.parts).map(([name, part]) => [nameKey(name), part]));
  }

  check(): void {
    for (const [name, part] of Object.entries(this.behaviour.parts)) {
      const made = this.project.components.get(nameKey(part.use));
      if (made) this.checkFace(name, part, made);
      else if (elements.get(nameKey(part.use))?.units) this.checkAlike(name, part);
    }
    for (const [name, source] of Object.entries(this.behaviour.outputs)) {
      const wanted = entry(this.component.raw.outputs, name)?.unit;
      this.compare(['behaviour', 'outputs', name], source, this.unitOf(source), name, wanted);
    }
  }

  private checkFace(name: string, { inputs = {} }: RawPart, made: ComponentDocument): void {
    for (const [input, source] of Object.entries(inputs))
      this.compare(
        ['behaviour', 'parts', name, 'inputs', input],
        source,
        this.unitOf(source),
        `${name}.${input}`,
        entry(made.raw.inputs, input)?.unit,
      );
  }

  private checkAlike(name: string, { inputs = {} }: RawPart): void {
    const known = Object.entries(inputs).flatMap(([input, source]) => {
      const unit = this.unitOf(source);
      return unit === undefined ? [] : [{ input, source, unit }];
    });
    const [first, ...others] = known;
    for (const { input, source, unit } of others)
      this.compare(['behaviour', 'parts', name, 'inputs', input], source, unit, `${name}.${first?.input}, beside it,`, first?.unit);
  }

  private compare(path: string[], source: Scalar, unit: string | undefined, what: string, wanted: string | undefined): void {
    if (unit === undefined || !wanted || sameUnit(unit, wanted)) return;
    this.faults.add(
      'unit',
      this.component.document.place(path),
      `${String(source)} ${inUnit(unit)}, but ${what} ${inUnit(wanted)}.`,
      `A wire converts nothing: ${unitFix(unit, wanted, 'a gain')}`,
    );
  }

  private unitOf(source: Scalar): string | undefined {
    if (typeof source !== 'string') return undefined;
    const { raw } = this.component;
    const port = entry(raw.inputs, source) ?? entry(raw.parameters, source);
    if (port) return port.unit || undefined;
    const [head = '', output] = source.split('.');
    const key = nameKey(head);
    const part = this.parts.get(key);
    if (!part || this.asked.has(key)) return undefined;
    const made = this.project.components.get(nameKey(part.use));
    if (made) return (output === undefined ? Object.values(made.raw.outputs ?? {})[0] : entry(made.raw.outputs, output))?.unit || undefined;
    if (elements.get(nameKey(part.use))?.units !== 'kept') return undefined;
    this.asked.add(key);
    const unit = Object.values(part.inputs ?? {}).reduce<string | undefined>((found, input) => found ?? this.unitOf(input), undefined);
    this.asked.delete(key);
    return unit;
  }
}

function entry<T>(group: Readonly<Record<string, T>> | undefined, name: string): T | undefined {
  return Object.entries(group ?? {}).find(([key]) => nameKey(key) === nameKey(name))?.[1];
}
