import type { Faults } from '@/core/fault';
import { declare, enumerated, Formula, type Found, type PlanBuilder, type Scope, typeFormula, type Wanted } from '@/core/formula';
import { nameKey } from '@/core/language';
import { constant, type Node, type SlotNumber, slotValue } from '@/core/plan';
import type { RawEquations, Scalar } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';
import { boundsOf } from './bounds';
import { type Instance, portFound } from './instance';
import { namesUsed } from './namesUsed';

/** Adds the continuous equations of one instance to the plan: states, intermediate values, derivatives, outputs. */
export function addEquations(instance: Instance, behaviour: RawEquations, builder: PlanBuilder, faults: Faults): void {
  const equations = new Equations(instance, behaviour, builder, faults);
  equations.declare();
  equations.assignLet();
  equations.addStates();
  equations.addDelays();
  equations.assignOutputs();
  equations.warnOfUnused();
  equations.addEvents();
}

class Equations {
  private readonly names: Map<string, Found>;
  private readonly states = new Map<string, SlotNumber>();
  private readonly scope: Scope;
  private readonly document: ReadDocument;

  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawEquations,
    private readonly builder: PlanBuilder,
    private readonly faults: Faults,
  ) {
    this.document = instance.component.document;
    this.names = faceNames(instance);
    this.scope = scopeOf(this.names, builder, true);
  }

  /** States and intermediate values have their slots before any formula is read: each may speak of all. */
  declare(): void {
    const { instance, behaviour, builder, names } = this;
    for (const [name, raw] of Object.entries(behaviour.states ?? {})) {
      const declared = declare(`${instance.name}.${name}`, raw);
      const slot = builder.slot({ ...declared, start: 0 });
      this.states.set(nameKey(name), slot);
      names.set(nameKey(name), { node: slotValue('LREAL', slot), unit: declared.unit });
    }
    for (const name of Object.keys(behaviour.let ?? {})) {
      const slot = builder.slot({ name: `${instance.name}.${name}`, type: 'LREAL', unit: '', start: 0 });
      names.set(nameKey(name), { node: slotValue('LREAL', slot) });
    }
    for (const name of Object.keys(behaviour.delays ?? {})) {
      const slot = builder.slot({ name: `${instance.name}.${name}`, type: 'LREAL', unit: '', start: 0 });
      names.set(nameKey(name), { node: slotValue('LREAL', slot) });
    }
  }

  addDelays(): void {
    const startScope = scopeOf(parameterNames(this.instance), this.builder);
    for (const [name, raw] of Object.entries(this.behaviour.delays ?? {})) {
      const path = ['behaviour', 'delays', name];
      const of = this.typed([...path, 'of'], raw.of, 'LREAL');
      const by = this.typed([...path, 'by'], raw.by, 'LREAL', startScope);
      const start = raw.start === undefined ? constant('LREAL', 0) : this.typed([...path, 'start'], raw.start, 'LREAL', startScope);
      const node = this.names.get(nameKey(name))?.node;
      if (of && by && start && node?.k === 'slot') this.builder.delays.push({ slot: node.slot, of, by, start });
    }
  }

  assignLet(): void {
    for (const [name, text] of Object.entries(this.behaviour.let ?? {})) {
      const value = this.typed(['behaviour', 'let', name], text, 'LREAL');
      const node = this.names.get(nameKey(name))?.node;
      if (value && node?.k === 'slot') this.builder.parts.assignments.push({ slot: node.slot, value });
    }
  }

  addStates(): void {
    const { behaviour, builder, faults, document, states } = this;
    const startScope = scopeOf(parameterNames(this.instance), builder);
    for (const [name, raw] of Object.entries(behaviour.states ?? {})) {
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
      const derivative = this.typed(['behaviour', 'derivatives', name], formula, 'LREAL');
      const start = this.typed(['behaviour', 'states', name, 'start'], raw.start, 'LREAL', startScope);
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
  }

  assignOutputs(): void {
    const { instance, behaviour, builder } = this;
    for (const [name, text] of Object.entries(behaviour.outputs ?? {})) this.assignOutput(name, text);
    for (const [key, port] of instance.outputs) {
      if (Object.keys(behaviour.outputs ?? {}).some((candidate) => nameKey(candidate) === key)) builder.parts.logged.push(port.slot);
      else
        this.faults.add(
          'unknown-name',
          this.document.keyPlace(['outputs', port.name.split('.')[1] ?? '']),
          `The output "${port.name}" is never given a value.`,
          'Add a formula for it under behaviour: outputs.',
        );
    }
  }

  private assignOutput(name: string, text: Scalar): void {
    const { instance, builder } = this;
    const target = instance.outputs.get(nameKey(name));
    if (!target) {
      this.faults.add(
        'unknown-name',
        this.document.keyPlace(['behaviour', 'outputs', name]),
        `"${name}" is not an output of ${instance.component.raw.component}.`,
        'Declare it under outputs, or put the formula under let.',
      );
      return;
    }
    const value = this.typed(['behaviour', 'outputs', name], text, target);
    if (!value) return;
    builder.parts.assignments.push({ slot: target.slot, value });
    const bounds = instance.component.raw.end_stops ? undefined : boundsOf(value);
    if (bounds) builder.parts.limited.push({ slot: target.slot, ...bounds });
  }

  warnOfUnused(): void {
    const { behaviour } = this;
    const texts = Object.values({ ...behaviour.let, ...behaviour.derivatives, ...behaviour.outputs })
      .concat(Object.values(behaviour.delays ?? {}).map(({ of }) => of))
      .concat((behaviour.events ?? []).flatMap((event) => [event.when, ...Object.values(event.set)]));
    const used = namesUsed(texts.map(String));
    for (const name of Object.keys(behaviour.let ?? {})) {
      if (!used.has(nameKey(name)))
        this.faults.warn('unused', this.document.keyPlace(['behaviour', 'let', name]), `"${name}" is not used.`, 'Remove it, or make it an output.');
    }
  }

  addEvents(): void {
    const { builder, document, faults } = this;
    (this.behaviour.events ?? []).forEach((event, index) => {
      const path = ['behaviour', 'events', index];
      const condition = this.typed([...path, 'when'], event.when, 'BOOL');
      const sets = Object.entries(event.set).flatMap(([name, text]) => {
        const slot = this.states.get(nameKey(name));
        const value = this.typed([...path, 'set', name], text, 'LREAL');
        if (slot === undefined)
          faults.add(
            'unknown-name',
            document.keyPlace([...path, 'set', name]),
            `"${name}" is not a state.`,
            'An event sets states of this component.',
          );
        return slot === undefined || !value ? [] : [{ slot, value }];
      });
      const site = builder.site(document.place(path), String(event.when));
      if (condition) builder.parts.crossings.push({ condition, ...(event.from_start ? { fromStart: true } : {}), sets, site });
    });
  }

  private typed(path: (string | number)[], text: Scalar, wanted: Wanted, scope = this.scope): Node | undefined {
    return typeFormula(new Formula(this.document, path, String(text), this.faults), wanted, scope);
  }
}

/** Parameters only: what a start value may depend on. */
export function parameterNames(instance: Instance): Map<string, Found> {
  return new Map([...instance.parameters].map(([key, port]) => [key, portFound(port)]));
}

/** Inputs and parameters of a face; an input that is not wired is told elsewhere and counts as a constant here. */
export function faceNames(instance: Instance): Map<string, Found> {
  const names = parameterNames(instance);
  for (const [key, port] of instance.inputs) {
    names.set(key, { node: port.source?.node ?? constant(port.type, 0), unit: port.unit, ...enumerated(port) });
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
