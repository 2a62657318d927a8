import type { Faults } from '@/core/fault';
import { declare, Formula, type Found, type PlanBuilder, type Scope, typeExpression } from '@/core/formula';
import { nameKey } from '@/core/language';
import { constant, type SlotNumber, slotValue, type ValueType } from '@/core/plan';
import type { Named, RawEquations, Scalar } from '@/core/shapes';
import { boundsOf } from './bounds';
import { type Instance, slotNode } from './instance';
import { namesUsed } from './namesUsed';

/** Adds the continuous equations of one instance to the plan: states, intermediate values, derivatives, outputs. */
export function addEquations(instance: Instance, behaviour: RawEquations, builder: PlanBuilder, faults: Faults): void {
  const { document } = instance.component;
  const names = faceNames(instance);
  const states = new Map<string, SlotNumber>();
  const startScope = scopeOf(parameterNames(instance), builder);

  for (const [name, raw] of Object.entries(behaviour.states ?? {})) {
    const declared = declare(`${instance.name}.${name}`, raw);
    const slot = builder.slot({ ...declared, start: 0 });
    states.set(nameKey(name), slot);
    names.set(nameKey(name), { node: slotValue('LREAL', slot), unit: declared.unit });
  }
  for (const name of Object.keys(behaviour.let ?? {})) {
    const slot = builder.slot({ name: `${instance.name}.${name}`, type: 'LREAL', unit: '', start: 0 });
    names.set(nameKey(name), { node: slotValue('LREAL', slot) });
  }
  const scope = scopeOf(names, builder, true);

  assign('let', behaviour.let);
  for (const [name, raw] of Object.entries(behaviour.states ?? {})) {
    const path = ['behaviour', 'derivatives', name];
    const formula = Object.entries(behaviour.derivatives ?? {}).find(([key]) => nameKey(key) === nameKey(name))?.[1];
    if (formula === undefined) {
      faults.add(
        'unknown-name',
        document.keyPlace(['behaviour', 'states', name]),
        `The state "${name}" has no derivative.`,
        `Add it under derivatives: ${name}: "…".`,
      );
      continue;
    }
    const derivative = typed(path, formula, 'LREAL', scope);
    const start = typed(['behaviour', 'states', name, 'start'], raw.start, 'LREAL', startScope);
    const slot = states.get(nameKey(name));
    if (derivative && start && slot !== undefined) {
      builder.parts.states.push({ slot, derivative, start });
      builder.parts.logged.push(slot);
    }
  }
  for (const name of Object.keys(behaviour.derivatives ?? {})) {
    if (!states.has(nameKey(name)))
      faults.add(
        'unknown-name',
        document.keyPlace(['behaviour', 'derivatives', name]),
        `"${name}" is not a state.`,
        'Declare it under states, or remove the derivative.',
      );
  }
  assign('outputs', behaviour.outputs);
  for (const [key, port] of instance.outputs) {
    const name = Object.keys(behaviour.outputs ?? {}).find((candidate) => nameKey(candidate) === key);
    if (!name)
      faults.add(
        'unknown-name',
        document.keyPlace(['outputs', port.name.split('.')[1] ?? '']),
        `The output "${port.name}" is never given a value.`,
        'Add a formula for it under behaviour: outputs.',
      );
    else builder.parts.logged.push(port.slot);
  }

  const texts = Object.values({ ...behaviour.let, ...behaviour.derivatives, ...behaviour.outputs }).concat(
    (behaviour.events ?? []).flatMap((event) => [event.when, ...Object.values(event.set)]),
  );
  const used = namesUsed(texts.map(String));
  for (const name of Object.keys(behaviour.let ?? {})) {
    if (!used.has(nameKey(name)))
      faults.warn('unused', document.keyPlace(['behaviour', 'let', name]), `"${name}" is not used.`, 'Remove it, or give it out.');
  }

  (behaviour.events ?? []).forEach((event, index) => {
    const path = ['behaviour', 'events', index];
    const condition = typed([...path, 'when'], event.when, 'BOOL', scope);
    const sets = Object.entries(event.set).flatMap(([name, text]) => {
      const slot = states.get(nameKey(name));
      const value = typed([...path, 'set', name], text, 'LREAL', scope);
      if (slot === undefined)
        faults.add('unknown-name', document.keyPlace([...path, 'set', name]), `"${name}" is not a state.`, 'An event sets states of this component.');
      return slot === undefined || !value ? [] : [{ slot, value }];
    });
    if (condition) builder.parts.crossings.push({ condition, sets, site: builder.site(document.place(path), String(event.when)) });
  });

  function assign(group: 'let' | 'outputs', formulas: Named<Scalar> | undefined): void {
    for (const [name, text] of Object.entries(formulas ?? {})) {
      const target = group === 'outputs' ? instance.outputs.get(nameKey(name)) : undefined;
      if (group === 'outputs' && !target) {
        faults.add(
          'unknown-name',
          document.keyPlace(['behaviour', 'outputs', name]),
          `"${name}" is not an output of ${instance.component.raw.component}.`,
          'Declare it under outputs, or put the formula under let.',
        );
        continue;
      }
      const value = typed(['behaviour', group, name], text, target?.type ?? 'LREAL', scope);
      const node = names.get(nameKey(name))?.node;
      const slot = target?.slot ?? (node?.k === 'slot' ? node.slot : undefined);
      if (!value || slot === undefined) continue;
      builder.parts.assignments.push({ slot, value });
      const bounds = group === 'outputs' && !instance.component.raw.end_stops ? boundsOf(value) : undefined;
      if (bounds) builder.parts.limited.push({ slot, ...bounds });
    }
  }

  function typed(path: (string | number)[], text: Scalar, type: ValueType, within: Scope) {
    const formula = new Formula(document, path, String(text), faults);
    const expression = formula.expression();
    return expression ? typeExpression(expression, type, formula, within) : undefined;
  }
}

/** Parameters only: what a start value may depend on. */
export function parameterNames(instance: Instance): Map<string, Found> {
  return new Map([...instance.parameters].map(([key, port]) => [key, { node: slotNode(port), unit: port.unit }]));
}

/** Inputs and parameters of a face; an input that is not wired is told elsewhere and counts as a constant here. */
export function faceNames(instance: Instance): Map<string, Found> {
  const names = parameterNames(instance);
  for (const [key, port] of instance.inputs) {
    names.set(key, { node: port.source?.node ?? constant(port.type, 0), unit: port.unit });
  }
  return names;
}

export function scopeOf(names: ReadonlyMap<string, Found>, builder: PlanBuilder, withTime = false): Scope {
  return {
    find(path) {
      const key = nameKey(path.join('.'));
      return withTime && key === 'time' ? { node: { k: 'time', type: 'LREAL' }, unit: 's' } : (names.get(key) ?? builder.definitions.get(key));
    },
    names: () => [...names.keys(), ...builder.definitions.keys()],
    site: (formula, span) => builder.siteOf(formula, span),
    functions: builder.functions,
  };
}
