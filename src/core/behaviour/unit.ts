import type { Faults, Place } from '@/core/fault';
import { type FmiUnit, type FmiVariable, kindsOf, openedUnit } from '@/core/fmi';
import type { Declared, PlanBuilder } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { constant, type PlanUnit, type UnitPin } from '@/core/plan';
import type { RawUnit } from '@/core/shapes';
import { findUnit, inUnit, sameUnit } from '@/core/units';
import { sentenceOf } from '@/core/wording';
import type { Instance } from './instance';
import { taskTiming } from './timing';

/** Adds a co-simulation unit to the plan: a task that gives out what it has reached, and what goes into it before each of its steps. */
export function addUnit(instance: Instance, behaviour: RawUnit, units: ReadonlyMap<string, string>, builder: PlanBuilder, faults: Faults): void {
  const timing = taskTiming(instance, behaviour, faults);
  const unit = usableUnit(instance, behaviour, units, faults);
  if (!timing || !unit) return;
  const pins = new Pins(instance, behaviour, unit, faults);
  const planned: PlanUnit = {
    component: instance.name,
    file: behaviour.file,
    hash: unit.hash,
    ...timing,
    inputs: pins.of('inputs', instance.inputs, (port) => ({ value: port.source?.node ?? constant(port.type, 0) })),
    outputs: pins.of('outputs', instance.outputs, ({ slot }) => ({ slot })),
    parameters: pins.of('parameters', instance.parameters, ({ slot }) => ({ slot })),
  };
  pins.checkNames();
  const outputs = [...instance.outputs.values()];
  const host = builder.units.push(planned) - 1;
  const gives = planned.outputs.map(({ slot }) => slot);
  builder.parts.tasks.push({
    component: instance.name,
    ...timing,
    work: [{ k: 'hosted', host, task: 0, takes: [], gives }],
    logged: outputs.map(({ slot }) => slot),
  });
}

/** The unit a component stands for, if it can be run here; what is wrong with it is told. */
function usableUnit({ component, name }: Instance, { file }: RawUnit, units: ReadonlyMap<string, string>, faults: Faults): FmiUnit | undefined {
  const place = component.document.place(['behaviour', 'file']);
  const text = units.get(file);
  if (text === undefined) {
    const near = nearestName(file, units.keys());
    faults.add('unknown-name', place, `There is no unit "${file}".`, near ? `Did you mean "${near}"?` : 'Put the file under units/.');
    return undefined;
  }
  const unit = openedUnit(text);
  if ('problem' in unit) {
    faults.add(
      'file-unreadable',
      place,
      sentenceOf(`The unit ${file} cannot be used: ${unit.problem}`),
      'Export it again, for co-simulation, version 2.0 or 3.0.',
    );
    return undefined;
  }
  if (unit.library === undefined)
    faults.add('file-unreadable', place, `The unit ${file} has no library for 64-bit Linux, so ${name} cannot run.`, 'Export it with one.');
  return unit;
}

type Group = 'inputs' | 'outputs' | 'parameters';

/** Leads the face of a component to the variables of its unit. */
class Pins {
  private readonly document: Instance['component']['document'];
  /** Names that ports and parameters are led to, by the keys of their own. */
  private readonly led: ReadonlyMap<string, string>;
  /** Variables of the unit by their names, and by the keys of these. */
  private readonly variables: ReadonlyMap<string, FmiVariable>;

  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawUnit,
    private readonly unit: FmiUnit,
    private readonly faults: Faults,
  ) {
    this.document = instance.component.document;
    this.led = new Map(Object.entries(behaviour.variables ?? {}).map(([own, name]) => [nameKey(own), name]));
    this.variables = new Map([
      ...unit.variables.map((one) => [nameKey(one.name), one] as const),
      ...unit.variables.map((one) => [one.name, one] as const),
    ]);
  }

  of<P extends Declared, T>(group: Group, ports: ReadonlyMap<string, P>, end: (port: P) => T): (UnitPin & T)[] {
    return [...ports.values()].flatMap((port) => {
      const pin = this.pin(group, port);
      return pin ? [{ ...pin, ...end(port) }] : [];
    });
  }

  private pin(group: Group, port: Declared): UnitPin | undefined {
    const { instance, unit, faults } = this;
    const own = port.name.slice(instance.name.length + 1);
    const wanted = this.led.get(nameKey(own)) ?? own;
    const place = this.placeOf(own, group);
    const variable = this.variables.get(wanted) ?? this.variables.get(nameKey(wanted));
    if (!variable) {
      const near = nearestName(
        wanted,
        unit.variables.map((one) => one.name),
      );
      faults.add(
        'unknown-name',
        place,
        `The unit has no variable "${wanted}".`,
        near ? `Did you mean "${near}"?` : `Name one of its variables under behaviour: variables: ${own}: …`,
      );
      return undefined;
    }
    const { name, reference, kind = '' } = variable;
    return this.suits(variable, group, port, place) ? { name, reference, kind } : undefined;
  }

  /** Whether a variable can stand behind a port. */
  private suits(variable: FmiVariable, group: Group, port: Declared, place: Place): boolean {
    const { faults } = this;
    const { name, causality, kind, unit } = variable;
    if (!roles[group].includes(causality)) {
      const article = /^[aeiou]/.test(causality) ? 'an' : 'a';
      faults.add(
        'type',
        place,
        `In the unit ${name} is ${article} ${causality}; it cannot be one of the ${group}.`,
        'Declare it where it belongs, or name another variable.',
      );
      return false;
    }
    if (!kind) {
      faults.add('type', place, `In the unit ${name} is a text or an array, which a run cannot exchange.`, 'Leave it out.');
      return false;
    }
    const types = kindsOf(kind);
    if (!types.includes(port.type)) {
      faults.add('type', place, `In the unit ${name} is ${kind}, but ${port.name} is ${port.type}.`, `Make it ${types.slice(0, 2).join(' or ')}.`);
      return false;
    }
    // Units of other programs may have names of their own, which nobody can hold against ours.
    if (unit !== '' && findUnit(unit) && !sameUnit(unit, port.unit)) {
      faults.add('unit', place, `In the unit ${name} ${inUnit(unit)}, but ${port.name} ${inUnit(port.unit)}.`, `Write unit: ${unit}.`);
      return false;
    }
    return true;
  }

  /** Names of variables have to be those of the face. */
  checkNames(): void {
    const { instance, behaviour, faults, document } = this;
    const known = new Set([...instance.inputs.keys(), ...instance.outputs.keys(), ...instance.parameters.keys()]);
    for (const name of Object.keys(behaviour.variables ?? {})) {
      if (known.has(nameKey(name))) continue;
      const near = nearestName(name, known);
      faults.add(
        'unknown-name',
        document.keyPlace(['behaviour', 'variables', name]),
        `${instance.component.raw.component} has no input, output or parameter "${name}".`,
        near ? `Did you mean "${near}"?` : 'Declare it in the face, or remove the line.',
      );
    }
  }

  private placeOf(own: string, group: Group): Place {
    const isLed = Object.hasOwn(this.behaviour.variables ?? {}, own);
    return isLed ? this.document.place(['behaviour', 'variables', own]) : this.document.keyPlace([group, own]);
  }
}

/** What a variable has to be in its unit. Any value can be read. */
const roles: Readonly<Record<Group, readonly string[]>> = {
  inputs: ['input'],
  outputs: ['output', 'local', 'calculatedParameter'],
  parameters: ['parameter'],
};
