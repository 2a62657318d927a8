import type { ComponentDocument, Project } from '@/core/documents';
import { Faults, type Place } from '@/core/fault';
import {
  declare,
  enumerated,
  enumerationSuits,
  FormulaText,
  type Found,
  kindWords,
  numberOfValue,
  type PlanBuilder,
  readTime,
  readValue,
  typeFormula,
  widens,
} from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { constant, type PositionInfo } from '@/core/plan';
import type { RawNetwork, RawPart, Scalar } from '@/core/shapes';
import { plural } from '@/core/wording';
import type { ReadDocument } from '@/core/yaml';
import { faceNames, scopeOf } from '../equations';
import { type InputPort, type Instance, instantiate, type OutputPort, portFound } from '../instance';
import { parameterValues } from '../parameters';
import { taskTiming } from '../timing';
import { boundParameters, checkBound } from './boundParameters';
import { elements } from './elements';
import type { Position } from './elements/element';

/** An input inside a network that waits for the sources outside it to be known. */
export interface Inner {
  readonly port: InputPort;
  readonly network: Instance;
  readonly source: Scalar;
  readonly place: Place;
  readonly parts: ReadonlyMap<string, Instance>;
  /** An element takes a value of any unit. */
  readonly anyUnit: boolean;
}

/** Makes the parts of a network into instances, named `network.part`, and links its outputs to theirs. */
export class NetworkExpansion {
  /** Outer networks first, so that their inputs are known when the inner ones ask. */
  readonly inner: Inner[] = [];
  readonly instances: Instance[] = [];
  /** Sampled elements that have positions. */
  private readonly standing: { readonly instance: Instance; readonly positions: readonly Position[] }[] = [];

  constructor(
    private readonly project: Project,
    private readonly builder: PlanBuilder,
    private readonly faults: Faults,
  ) {}

  expand(network: Instance, behaviour: RawNetwork, around: readonly string[] = []): void {
    const { document } = network.component;
    const key = nameKey(network.component.raw.component);
    if (around.includes(key)) {
      this.faults.add(
        'type',
        document.place(['behaviour', 'parts']),
        `The network ${network.component.raw.component} would contain itself.`,
        'Take the part out of one of them.',
      );
      return;
    }
    const sampled = behaviour.period !== undefined || network.use?.periodNs !== undefined;
    const timing = sampled ? taskTiming(network, behaviour, this.faults) : undefined;
    const parts = new Map<string, Instance>();
    for (const [name, part] of Object.entries(behaviour.parts)) {
      const instance = this.part(network, name, part, timing);
      if (!instance) continue;
      parts.set(nameKey(name), instance);
      this.instances.push(instance);
    }
    for (const [name, part] of Object.entries(behaviour.parts)) this.noteInputs(network, name, part, parts);
    for (const instance of parts.values()) {
      const inside = instance.component.raw.behaviour;
      if (inside.kind === 'network') this.expand(instance, inside, [...around, key]);
    }
    // Only now the networks among the parts have their outputs.
    this.linkOutputs(network, behaviour, parts);
  }

  private part(network: Instance, name: string, part: RawPart, timing: Instance['use']): Instance | undefined {
    const { document } = network.component;
    const path = ['behaviour', 'parts', name];
    const own = part.period === undefined ? undefined : readTime(part.period, document.place([...path, 'period']), this.faults, 1);
    const offset = part.offset === undefined ? undefined : readTime(part.offset, document.place([...path, 'offset']), this.faults);
    const use = { ...timing, ...(own === undefined ? {} : { periodNs: own }), ...(offset === undefined ? {} : { offsetNs: offset }) };
    const component = this.component(document, path, part, use.periodNs !== undefined);
    if (!component) return undefined;
    const bound = boundParameters(network, part.parameters ?? {});
    const full = `${network.name}.${name}`;
    const values = parameterValues(full, component, part.parameters ?? {}, document, [...path, 'parameters'], this.faults, bound);
    const instance = instantiate(full, component, values, this.builder, this.faults, use, bound);
    this.checkBound(instance, network, bound, part, (parameter) => document.place([...path, 'parameters', parameter]));
    const element = this.project.components.has(nameKey(part.use)) ? undefined : elements.get(nameKey(part.use));
    const positions = use.periodNs === undefined ? [] : (element?.positions?.(part.settings ?? {}) ?? []);
    if (positions.length > 0) this.standing.push({ instance, positions });
    return instance;
  }

  private checkBound(
    instance: Instance,
    network: Instance,
    bound: ReadonlyMap<string, OutputPort>,
    part: RawPart,
    place: (parameter: string) => Place,
  ): void {
    const anyUnit = !this.project.components.has(nameKey(part.use));
    for (const name of Object.keys(part.parameters ?? {})) {
      const source = bound.get(nameKey(name));
      if (source) checkBound({ part: instance, network, anyUnit }, [name, source], place(name), this.faults);
    }
  }

  private component(document: ReadDocument, path: readonly string[], part: RawPart, sampled: boolean): ComponentDocument | undefined {
    const known = this.project.components.get(nameKey(part.use));
    if (known) return known;
    if (this.project.unusable.has(nameKey(part.use))) return undefined;
    const element = elements.get(nameKey(part.use));
    if (!element) {
      const near = nearestName(part.use, [...elements.keys(), ...[...this.project.components.values()].map((one) => one.raw.component)]);
      this.faults.add(
        'unknown-name',
        document.place([...path, 'use']),
        `There is no element or component "${part.use}".`,
        near ? `Did you mean "${near}"?` : `The elements are: ${[...elements.keys()].join(', ')}.`,
      );
      return undefined;
    }
    for (const setting of Object.keys(part.settings ?? {})) {
      if (element.settings && setting in element.settings) continue;
      const kinds = element.kinds?.map((kind) => `${kind}, ${kind}_2 …`).join(' and ');
      const fix = element.settings
        ? `It has: ${Object.keys(element.settings).join(', ')}.`
        : kinds
          ? `It has none: its inputs are named ${kinds}.`
          : 'It has none; numbers that may be tuned are parameters.';
      this.faults.add('unknown-name', document.keyPlace([...path, 'settings', setting]), `${part.use} has no setting "${setting}".`, fix);
    }
    const raw = element.build(part.settings ?? {}, sampled, Object.keys(part.inputs ?? {}));
    if (typeof raw === 'string') {
      this.faults.add('shape', document.place(path), `${part.use}: ${raw}.`, `The element ${part.use}: ${element.about}.`);
      return undefined;
    }
    return { document: fixed(document, document.place(path)), raw: { ...raw, component: part.use } };
  }

  private noteInputs(network: Instance, name: string, part: RawPart, parts: ReadonlyMap<string, Instance>): void {
    const instance = parts.get(nameKey(name));
    if (!instance) return;
    const { document } = network.component;
    for (const [input, source] of Object.entries(part.inputs ?? {})) {
      const path = ['behaviour', 'parts', name, 'inputs', input];
      const port = instance.inputs.get(nameKey(input));
      if (!port) {
        const known = Object.keys(instance.component.raw.inputs ?? {});
        const near = nearestName(input, known);
        this.faults.add(
          'unknown-name',
          document.keyPlace(path),
          `${part.use} has no input "${input}".`,
          near ? `Did you mean "${near}"?` : `It has: ${known.join(', ') || 'none'}.`,
        );
        continue;
      }
      this.inner.push({ port, network, source, place: document.place(path), parts, anyUnit: !this.project.components.has(nameKey(part.use)) });
    }
    for (const [key, port] of instance.inputs) {
      if (Object.keys(part.inputs ?? {}).some((input) => nameKey(input) === key)) continue;
      this.faults.add(
        'unconnected-input',
        document.keyPlace(['behaviour', 'parts', name]),
        `The input ${port.name} is not connected.`,
        `Name its source under inputs: ${key}: a part, an input of the network, or a number.`,
      );
    }
  }

  private linkOutputs(network: Instance, behaviour: RawNetwork, parts: ReadonlyMap<string, Instance>): void {
    const { document, raw } = network.component;
    for (const [name, port] of Object.entries(raw.outputs ?? {})) {
      const entry = Object.entries(behaviour.outputs).find(([key]) => nameKey(key) === nameKey(name));
      if (!entry) {
        this.faults.add(
          'unknown-name',
          document.keyPlace(['outputs', name]),
          `The output "${name}" is never given a value.`,
          `Add ${name}: part under behaviour: outputs.`,
        );
        continue;
      }
      const place = document.place(['behaviour', 'outputs', entry[0]]);
      const found = outputOf(entry[1], parts);
      if (typeof found === 'string') {
        if (!isFaulty(entry[1], network, parts)) this.faults.add('unknown-name', place, found, 'Name a part, or part.output.');
        continue;
      }
      const declared = declare(`${network.name}.${name}`, port);
      if (found.type !== declared.type || !enumerationSuits(found, declared))
        this.faults.add(
          'type',
          place,
          `${found.name} is ${kindWords(found)}, but ${declared.name} is ${kindWords(declared)}.`,
          'Change one of the two types.',
        );
      network.outputs.set(nameKey(name), { ...declared, slot: found.slot });
      this.builder.adopt(found.slot, declared);
    }
  }

  /** The positions of all sampled elements. To be called once their inputs have sources. */
  positions(): PositionInfo[] {
    return this.standing.flatMap(({ instance, positions }) => {
      const scope = scopeOf(faceNames(instance), this.builder);
      return positions.flatMap(({ words, when }): PositionInfo[] => {
        // Our own text, of which nobody is told anything.
        const node = typeFormula(new FormulaText(instance.component.document, [], when, new Faults()), 'BOOL', scope);
        return node ? [{ component: instance.name, text: words, node }] : [];
      });
    });
  }

  /** Gives the inputs of all parts their sources. To be called once the wires of the loop stand. */
  connect(): void {
    for (const one of this.inner) {
      const found = this.sourceOf(one);
      if (!found) continue;
      one.port.source = one.anyUnit ? { node: found.node } : found;
      const type = found.node.type;
      if (!widens(type, one.port.type) || !enumerationSuits(found, one.port))
        this.faults.add(
          'type',
          one.place,
          `This is ${kindWords({ ...found, type })}, but ${one.port.name} expects ${kindWords(one.port)}.`,
          'Change one of the two types, or convert in between.',
        );
    }
  }

  /** Something in the network has this name. */
  private isNamed(name: string, network: Instance, parts: ReadonlyMap<string, Instance>): boolean {
    const key = nameKey(name);
    return network.inputs.has(key) || network.parameters.has(key) || parts.has(key);
  }

  private sourceOf({ port, network, source, place, parts }: Inner): Found | undefined {
    const isValue = typeof source === 'string' && port.enumeration !== undefined && numberOfValue(source, port.enumeration) !== undefined;
    if (typeof source !== 'string' || (isValue && !this.isNamed(source, network, parts))) {
      const value = readValue(source, { ...port, unit: '' }, place, this.faults);
      return value === undefined ? undefined : { node: constant(port.type, value), ...enumerated(port) };
    }
    const outside = network.inputs.get(nameKey(source));
    if (outside) return { ...(outside.source ?? { node: constant(outside.type, 0), unit: outside.unit }), ...enumerated(outside) };
    const parameter = network.parameters.get(nameKey(source));
    if (parameter) return portFound(parameter);
    const found = outputOf(source, parts);
    if (typeof found !== 'string') return portFound(found);
    if (isFaulty(source, network, parts)) return undefined;
    const near = nearestName(source, [...network.inputs.keys(), ...parts.keys()]);
    this.faults.add(
      'unknown-name',
      place,
      found,
      near ? `Did you mean "${near}"?` : 'Name a part, an input or a parameter of the network, or a number.',
    );
    return undefined;
  }
}

/** The name is that of a part which could not be made: its fault is told elsewhere. */
function isFaulty(name: string, network: Instance, parts: ReadonlyMap<string, Instance>): boolean {
  const { behaviour } = network.component.raw;
  const key = nameKey(name.split('.')[0] ?? '');
  return behaviour.kind === 'network' && !parts.has(key) && Object.keys(behaviour.parts).some((part) => nameKey(part) === key);
}

/** `part` means its only output, `part.output` one of several. */
function outputOf(name: string, parts: ReadonlyMap<string, Instance>): OutputPort | string {
  const [head = '', ...rest] = name.split('.');
  const part = parts.get(nameKey(head));
  if (!part) return `There is no "${name}" in this network.`;
  const outputs = [...part.outputs.values()];
  if (rest.length === 0) return outputs.length === 1 && outputs[0] ? outputs[0] : `"${name}" has ${plural(outputs.length, 'output')}.`;
  return part.outputs.get(nameKey(rest.join('.'))) ?? `"${head}" has no output "${rest.join('.')}".`;
}

/** The document of an element: wherever one looks in it, the part of the network that uses it. */
function fixed(document: ReadDocument, place: Place): ReadDocument {
  return { file: document.file, value: undefined, sound: true, place: () => place, keyPlace: () => place, placesWithin: () => () => place };
}
