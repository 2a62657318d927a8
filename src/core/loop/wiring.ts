import { type InputPort, type Instance, slotNode } from '@/core/behaviour';
import type { Place } from '@/core/fault';
import { type Declared, enumerated, enumerationSuits, kindWords, readValue, widens } from '@/core/formula';
import { isIdentifier, nameKey, nearestName } from '@/core/language';
import { comparison, constant, type PositionInfo, slotValue } from '@/core/plan';
import { inUnit, sameUnit, unitFix } from '@/core/units';
import type { Assembling } from './assembling';

/** A signal that inputs can be wired to. */
export type Source = Declared & { readonly slot: number };

/** Leads sources to the inputs of a loop: its free inputs and its wires. */
export class Wiring {
  /** The free inputs, by the key of their name. */
  readonly free = new Map<string, Source>();
  private readonly knownPorts: { inputs?: readonly string[]; outputs?: readonly string[] } = {};

  constructor(private readonly shared: Assembling) {}

  /** Inputs of the loop itself, set from outside. */
  makeFreeInputs(): void {
    const { raw, document } = this.shared.loop;
    const { builder } = this.shared;
    for (const [name, free] of Object.entries(raw.inputs ?? {})) {
      const ports = list(free.to).map((to, index) =>
        this.inputPort(to, document.place(['inputs', name, 'to', ...(Array.isArray(free.to) ? [index] : [])])),
      );
      const first = ports.find((port) => port !== undefined);
      if (!first) continue;
      const declared: Declared = { ...first, name };
      const start =
        free.start === undefined ? 0 : (readValue(free.start, declared, document.place(['inputs', name, 'start']), this.shared.faults) ?? 0);
      const slot = builder.slot({ ...slotFields(declared), start });
      const sloping = first.type === 'LREAL' || first.type === 'REAL';
      builder.parts.inputs.push({
        name,
        slot,
        base: builder.hidden(`${name} base`, start),
        ...(sloping ? { slope: builder.hidden(`${name} slope`), since: builder.hidden(`${name} since`) } : {}),
      });
      builder.parts.logged.push(slot);
      this.free.set(nameKey(name), { ...declared, slot });
      ports.forEach((port, index) => {
        if (port) this.connect(port, { ...declared, slot }, document.place(['inputs', name, 'to', ...(Array.isArray(free.to) ? [index] : [])]));
      });
    }
  }

  /** The ends of the declared ranges of free inputs, which cases may give them: boundary values, after ISO/IEC/IEEE 29119-4; of an enumeration each of its values. */
  limits(): PositionInfo[] {
    return [...this.free.values()].flatMap(({ name, slot, type, unit, min, max, enumeration }): PositionInfo[] => {
      if (enumeration)
        return enumeration.values.map((value, number): PositionInfo => {
          return { component: name, text: value, node: comparison('=', slotValue(type, slot), constant(type, number)), isLimit: true };
        });
      const at = (words: string, operator: '<=' | '>=', limit: number | undefined): PositionInfo[] => {
        if (limit === undefined || min === max) return [];
        const node = comparison(operator, slotValue(type, slot), constant(type, limit));
        return [{ component: name, text: `at its ${words}, ${`${limit} ${unit}`.trim()}`, node, isLimit: true }];
      };
      return [...at('least', '<=', min), ...at('greatest', '>=', max)];
    });
  }

  makeWires(): void {
    const { raw, document } = this.shared.loop;
    (raw.wires ?? []).forEach((wire, index) => {
      const fromPlace = document.place(['wires', index, 'from']);
      if (this.messageWire(wire, index)) return;
      const source = this.source(wire.from, fromPlace);
      list(wire.to).forEach((to, position) => {
        const place = document.place(['wires', index, 'to', ...(Array.isArray(wire.to) ? [position] : [])]);
        const port = this.inputPort(to, place);
        if (source && port) this.connect(port, source, place);
        else if (port && this.shared.catalogue.excuses(wire.from.split('.'))) port.source = { node: constant(port.type, 0), unit: port.unit };
      });
    });
  }

  /** A wire from a message that one component sends to those that others take. */
  private messageWire(wire: { from: string; to: string | readonly string[] }, index: number): boolean {
    const { instance, port } = this.split(wire.from);
    const receivers = instance?.receivers.get(port);
    if (!receivers) return false;
    const { messages } = this.shared.builder.parts;
    list(wire.to).forEach((to, position) => {
      const target = messages.find((message) => nameKey(message.name) === nameKey(to));
      const place = this.shared.loop.document.place(['wires', index, 'to', ...(Array.isArray(wire.to) ? [position] : [])]);
      if (target) receivers.push(target);
      else
        this.tellUnknown(
          to,
          place,
          'message',
          messages.map((message) => message.name),
        );
    });
    return true;
  }

  private split(name: string): { instance: Instance | undefined; port: string } {
    const [head = '', ...rest] = name.split('.');
    return { instance: this.shared.instances.get(nameKey(head)), port: nameKey(rest.join('.')) };
  }

  private inputPort(name: string, place: Place): InputPort | undefined {
    const { instance, port } = this.split(name);
    const found = instance?.inputs.get(port);
    if (!found) this.tellUnknown(name, place, 'input', this.portNames('inputs'));
    return found;
  }

  /** An output, or an input of the loop, by its name; a fault tells that there is none. */
  source(name: string, place: Place): Source | undefined {
    const { instance, port } = this.split(name);
    const found = instance?.outputs.get(port) ?? this.free.get(nameKey(name));
    if (!found) this.tellUnknown(name, place, 'output', this.portNames('outputs'));
    return found;
  }

  /** Made once, however many unknown names are compared with them. */
  private portNames(side: 'inputs' | 'outputs'): readonly string[] {
    this.knownPorts[side] ??= [...this.shared.instances.values()].flatMap((one) => [...one[side].values()].map((port) => port.name));
    return this.knownPorts[side];
  }

  tellUnknown(name: string, place: Place, kind: string, known: readonly string[]): void {
    if (this.shared.catalogue.excuses(name.split('.'))) return;
    const near = nearestName(name, known);
    const shape = isIdentifier(name.split('.')[0] ?? '') && name.includes('.') ? '' : ' Write component.port.';
    this.shared.faults.add(
      'unknown-name',
      place,
      `There is no ${kind} "${name}" in this loop.`,
      near ? `Did you mean "${near}"?` : `Check its spelling.${shape}`,
    );
  }

  private connect(port: InputPort, source: Source, place: Place): void {
    if (port.source) {
      this.shared.faults.add('driven-twice', place, `The input ${port.name} already has a source.`, 'Remove one of the two wires.');
      return;
    }
    const received = this.shared.faulty?.of(port.name)?.received;
    port.source = {
      node: received === undefined ? slotNode(source) : slotNode({ slot: received, type: source.type }),
      unit: source.unit,
      ...enumerated(port),
    };
    if (!widens(source.type, port.type) || !enumerationSuits(source, port)) {
      this.shared.faults.add(
        'type',
        place,
        `${source.name} is ${kindWords(source)}, but ${port.name} expects ${kindWords(port)}.`,
        'Change one of the two types, or convert in between.',
      );
    }
    if (!sameUnit(source.unit, port.unit)) {
      this.shared.faults.add(
        'unit',
        place,
        `${source.name} ${inUnit(source.unit)}, but ${port.name} expects ${port.unit || 'none'}.`,
        `A wire converts nothing: ${unitFix(source.unit, port.unit)}`,
      );
    }
  }

  /** Every input has a source. */
  checkConnected(): void {
    const { document, raw } = this.shared.loop;
    for (const instance of this.shared.instances.values()) {
      for (const port of instance.inputs.values()) {
        if (!port.source) {
          this.shared.faults.add(
            'unconnected-input',
            document.keyPlace(['components', instance.name]),
            `The input ${port.name} is not connected.`,
            'Add a wire to it, or list it under inputs: as a free input of the loop.',
          );
        }
      }
    }
    for (const [index, name] of (raw.unused ?? []).entries()) this.source(name, document.place(['unused', index]));
  }
}

function list(value: string | readonly string[]): readonly string[] {
  return typeof value === 'string' ? [value] : value;
}

function slotFields(declared: Declared): Declared {
  const { name, type, unit, min, max } = declared;
  return { name, type, unit, ...enumerated(declared), ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
}
