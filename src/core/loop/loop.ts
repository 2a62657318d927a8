import {
  addBehaviour,
  type InputPort,
  type Instance,
  instantiate,
  NetworkExpansion,
  type OutputPort,
  parameterValues,
  slotNode,
  unitFix,
} from '@/core/behaviour';
import type { LoopDocument, Project } from '@/core/documents';
import type { Faults, Place } from '@/core/fault';
import { type Declared, PlanBuilder, readTime, readValue, userFunctions, widens } from '@/core/formula';
import { isIdentifier, nameKey, nearestName } from '@/core/language';
import {
  type Assignment,
  constant,
  holds,
  isFixed,
  type Plan,
  type Solver,
  type StateTolerance,
  slotsRead,
  slotsReadByWork,
  type Task,
  when,
} from '@/core/plan';
import type { RawLoop, RawUse } from '@/core/shapes';
import { sameUnit } from '@/core/units';
import { Catalogue } from './catalogue';
import { type Constraint, checkConstraints, constraintsOf } from './constraints';
import { applyLoopSets } from './loopSets';
import { orderByNeed } from './order';

export interface AssembledLoop {
  readonly plan: Plan;
  readonly catalogue: Catalogue;
  /** What the parameters of its components have to keep to, in cases as well. */
  readonly constraints: readonly Constraint[];
}

/** Turns a loop document into a plan: instances, wires, behaviours, order of evaluation. Every fault on the way is told. */
export function assembleLoop(project: Project, loop: LoopDocument, faults: Faults): AssembledLoop {
  return new Assembly(project, loop, faults).assemble();
}

class Assembly {
  private readonly builder: PlanBuilder;
  private readonly catalogue = new Catalogue();
  private filled = false;
  private readonly instances = new Map<string, Instance>();
  private readonly knownPorts: { inputs?: readonly string[]; outputs?: readonly string[] } = {};
  private readonly networks: NetworkExpansion;
  private readonly freeSlots = new Map<string, Declared & { slot: number }>();

  constructor(
    private readonly project: Project,
    private readonly loop: LoopDocument,
    private readonly faults: Faults,
  ) {
    this.builder = new PlanBuilder(project.definitions);
    this.builder.functions = userFunctions(project.library, this.builder);
    this.networks = new NetworkExpansion(project, this.builder, faults);
  }

  assemble(): AssembledLoop {
    const { builder, loop } = this;
    this.makeInstances();
    this.makeFreeInputs();
    this.makeWires();
    this.checkConnected();
    this.networks.connect();
    for (const instance of this.networks.instances) this.instances.set(nameKey(instance.name), instance);
    for (const instance of this.instances.values()) addBehaviour(instance, this.project, builder, this.faults);
    applyLoopSets(loop, this.project, builder, this.faults);
    this.holdDisabled();
    const stopNs = readTime(loop.raw.stop, loop.document.place(['stop']), this.faults, 1) ?? 1;
    const plan: Plan = {
      loop: loop.raw.loop,
      slots: builder.slots,
      get sites() {
        return builder.sites();
      },
      ...builder.parts,
      assignments: this.orderAssignments(),
      tasks: this.orderTasks(),
      solver: this.solver(),
      stopNs,
      ...this.trusted(),
    };
    const constraints = [...this.instances.values()].flatMap((instance) => constraintsOf(instance, builder, this.faults));
    const place = (instance: string): Place => loop.document.keyPlace(['components', instance.split('.')[0] ?? '']);
    checkConstraints(constraints, (slot) => builder.slots[slot]?.start ?? Number.NaN, place, this.faults);
    const filled = (): Catalogue => this.filledCatalogue();
    return {
      plan,
      get catalogue() {
        return filled();
      },
      constraints,
    };
  }

  private makeInstances(): void {
    const { raw, document } = this.loop;
    for (const [name, use] of Object.entries(raw.components)) {
      const component = this.project.components.get(nameKey(use.use));
      if (!component) {
        const unusable = this.project.unusable.get(nameKey(use.use));
        this.catalogue.unreadable.set(nameKey(name), unusable);
        if (unusable) continue;
        const near = nearestName(
          use.use,
          [...this.project.components.values()].map((one) => one.raw.component),
        );
        this.faults.add(
          'unknown-name',
          document.place(['components', name, 'use']),
          `There is no component "${use.use}".`,
          near ? `Did you mean "${near}"?` : 'Add it under components/.',
        );
        continue;
      }
      if (this.instances.has(nameKey(name))) {
        this.faults.add(
          'duplicate-name',
          document.keyPlace(['components', name]),
          `The name "${name}" is used twice (case does not count).`,
          'Rename one of the two.',
        );
      }
      const values = parameterValues(name, component, use.parameters ?? {}, document, ['components', name, 'parameters'], this.faults);
      const instance = instantiate(name, component, values, this.builder, this.times(name, use));
      this.instances.set(nameKey(name), instance);
      const { behaviour } = component.raw;
      if (behaviour.kind === 'network') this.networks.expand(instance, behaviour);
    }
  }

  private times(name: string, use: RawUse): Instance['use'] {
    const read = (key: 'period' | 'offset', least: number): number | undefined => {
      const value = use[key];
      return value === undefined ? undefined : readTime(value, this.loop.document.place(['components', name, key]), this.faults, least);
    };
    const [periodNs, offsetNs] = [read('period', 1), read('offset', 0)];
    return { ...(periodNs === undefined ? {} : { periodNs }), ...(offsetNs === undefined ? {} : { offsetNs }) };
  }

  private makeFreeInputs(): void {
    const { raw, document } = this.loop;
    const { builder } = this;
    for (const [name, free] of Object.entries(raw.inputs ?? {})) {
      const ports = list(free.to).map((to, index) =>
        this.inputPort(to, document.place(['inputs', name, 'to', ...(Array.isArray(free.to) ? [index] : [])])),
      );
      const first = ports.find((port) => port !== undefined);
      if (!first) continue;
      const declared: Declared = { ...first, name };
      const start = free.start === undefined ? 0 : (readValue(free.start, declared, document.place(['inputs', name, 'start']), this.faults) ?? 0);
      const slot = builder.slot({ ...slotFields(declared), start });
      const sloping = first.type === 'LREAL' || first.type === 'REAL';
      builder.parts.inputs.push({
        name,
        slot,
        base: builder.hidden(`${name} base`, start),
        ...(sloping ? { slope: builder.hidden(`${name} slope`), since: builder.hidden(`${name} since`) } : {}),
      });
      builder.parts.logged.push(slot);
      this.freeSlots.set(nameKey(name), { ...declared, slot });
      ports.forEach((port, index) => {
        if (port) this.connect(port, { ...declared, slot }, document.place(['inputs', name, 'to', ...(Array.isArray(free.to) ? [index] : [])]));
      });
    }
  }

  private makeWires(): void {
    const { raw, document } = this.loop;
    (raw.wires ?? []).forEach((wire, index) => {
      const fromPlace = document.place(['wires', index, 'from']);
      if (this.messageWire(wire, index)) return;
      const source = this.source(wire.from, fromPlace);
      list(wire.to).forEach((to, position) => {
        const place = document.place(['wires', index, 'to', ...(Array.isArray(wire.to) ? [position] : [])]);
        const port = this.inputPort(to, place);
        if (source && port) this.connect(port, source, place);
        else if (port && this.catalogue.excuses(wire.from.split('.'))) port.source = { node: constant(port.type, 0), unit: port.unit };
      });
    });
  }

  /** A wire from a message that one component sends to those that others take. */
  private messageWire(wire: { from: string; to: string | readonly string[] }, index: number): boolean {
    const { instance, port } = this.split(wire.from);
    const receivers = instance?.receivers.get(port);
    if (!receivers) return false;
    const { messages } = this.builder.parts;
    list(wire.to).forEach((to, position) => {
      const target = messages.find((message) => nameKey(message.name) === nameKey(to));
      const place = this.loop.document.place(['wires', index, 'to', ...(Array.isArray(wire.to) ? [position] : [])]);
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
    return { instance: this.instances.get(nameKey(head)), port: nameKey(rest.join('.')) };
  }

  private inputPort(name: string, place: Place): InputPort | undefined {
    const { instance, port } = this.split(name);
    const found = instance?.inputs.get(port);
    if (!found) this.tellUnknown(name, place, 'input', this.portNames('inputs'));
    return found;
  }

  private source(name: string, place: Place): (Declared & { slot: number }) | undefined {
    const { instance, port } = this.split(name);
    const found = instance?.outputs.get(port) ?? this.freeSlots.get(nameKey(name));
    if (!found) this.tellUnknown(name, place, 'output', this.portNames('outputs'));
    return found;
  }

  /** Made once, however many unknown names are compared with them. */
  private portNames(side: 'inputs' | 'outputs'): readonly string[] {
    this.knownPorts[side] ??= [...this.instances.values()].flatMap((one) => [...one[side].values()].map((port) => port.name));
    return this.knownPorts[side];
  }

  private tellUnknown(name: string, place: Place, kind: string, known: readonly string[]): void {
    if (this.catalogue.excuses(name.split('.'))) return;
    const near = nearestName(name, known);
    const shape = isIdentifier(name.split('.')[0] ?? '') && name.includes('.') ? '' : ' Write component.port.';
    this.faults.add(
      'unknown-name',
      place,
      `There is no ${kind} "${name}" in this loop.`,
      near ? `Did you mean "${near}"?` : `Check its spelling.${shape}`,
    );
  }

  private connect(port: InputPort, source: Declared & { slot: number }, place: Place): void {
    if (port.source) {
      this.faults.add('driven-twice', place, `The input ${port.name} already has a source.`, 'Remove one of the two wires.');
      return;
    }
    port.source = { node: slotNode(source), unit: source.unit };
    if (!widens(source.type, port.type)) {
      this.faults.add(
        'type',
        place,
        `${source.name} is ${source.type}, but ${port.name} expects ${port.type}.`,
        'Change one of the two types, or convert in between.',
      );
    }
    if (!sameUnit(source.unit, port.unit)) {
      this.faults.add(
        'unit',
        place,
        `${source.name} is in ${source.unit || 'no unit'}, but ${port.name} expects ${port.unit || 'no unit'}.`,
        `A wire converts nothing: ${unitFix(source.unit, port.unit)}`,
      );
    }
  }

  private checkConnected(): void {
    const { document, raw } = this.loop;
    for (const instance of this.instances.values()) {
      for (const port of instance.inputs.values()) {
        if (!port.source) {
          this.faults.add(
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

  /** Work of a component that is not enabled is left out; what it gave out stays. */
  private holdDisabled(): void {
    const { builder, loop } = this;
    for (const [name, { enabled }] of Object.entries(loop.raw.components)) {
      if (enabled === undefined) continue;
      const place = loop.document.place(['components', name, 'enabled']);
      const source = this.source(enabled, place);
      if (source && source.type !== 'BOOL')
        this.faults.add('type', place, `${source.name} is ${source.type}; "enabled" wants a BOOL.`, 'Name a signal that is TRUE or FALSE.');
      const own = (task: Task): boolean => nameKey(task.component) === nameKey(name) || nameKey(task.component).startsWith(`${nameKey(name)}.`);
      if (!builder.parts.tasks.some(own))
        this.faults.add(
          'type',
          place,
          `${name} is not sampled; only sampled components can be held.`,
          'Remove "enabled", or give the component a period.',
        );
      if (!source) continue;
      builder.parts.tasks = builder.parts.tasks.map((task) => (own(task) ? { ...task, work: [when(slotNode(source), task.work)] } : task));
    }
  }

  /** Filled when it is first asked for: who only runs the plan needs no names. */
  private filledCatalogue(): Catalogue {
    const { builder, catalogue } = this;
    if (this.filled) return catalogue;
    this.filled = true;
    for (const free of this.freeSlots.values()) catalogue.add({ ...free, role: 'input', about: '' });
    for (const instance of this.instances.values()) {
      const { raw } = instance.component;
      const about = (group: 'outputs' | 'parameters', port: OutputPort): string =>
        raw[group]?.[port.name.slice(instance.name.length + 1)]?.about ?? '';
      for (const output of instance.outputs.values()) catalogue.add({ ...output, role: 'output', about: about('outputs', output) });
      for (const parameter of instance.parameters.values()) {
        const tuning = raw.parameters?.[parameter.name.slice(instance.name.length + 1)]?.tuning;
        catalogue.add({ ...parameter, role: 'parameter', about: about('parameters', parameter), ...(tuning ? { tuning } : {}) });
      }
      for (const input of instance.inputs.values()) {
        if (input.source?.node.k === 'slot')
          catalogue.alias(input.name, { slot: input.source.node.slot, type: input.source.node.type, unit: input.unit });
      }
    }
    const listed = new Set(catalogue.entries.map((entry) => entry.slot));
    const regions = new Set(builder.parts.regions.map((region) => region.slot));
    for (const [slots, role] of [
      [builder.parts.states.map((state) => state.slot), 'state'],
      [builder.parts.tasks.flatMap((task) => task.logged), 'variable'],
    ] as const) {
      for (const slot of slots) {
        const info = builder.slots[slot];
        if (info && !listed.has(slot) && !regions.has(slot)) catalogue.add({ ...info, slot, role, about: '' });
      }
    }
    for (const message of builder.parts.messages) catalogue.addMessage(message.name, message.mark);
    for (const region of builder.parts.regions) {
      catalogue.add({ name: region.name, slot: region.slot, type: 'INT', unit: '', role: 'region', about: '' });
      region.states.forEach((state, index) => {
        catalogue.addState(`${region.name}.${state.name}`, holds(region.slot, index + 1), state.mark);
      });
    }
    return catalogue;
  }

  /** Spans in which the plant is trusted, bound to their signals. */
  private trusted(): Pick<Plan, 'trusted'> {
    const { raw, document } = this.loop;
    if (!raw.trusted || raw.trusted.length === 0) return {};
    const catalogue = this.filledCatalogue();
    const trusted = raw.trusted.flatMap(({ signal, from, until, because }, index) => {
      const entry = catalogue.findEntry(signal, ['output', 'state', 'variable', 'input']);
      if (!entry) {
        const near = nearestName(
          signal,
          catalogue.entries.map((one) => one.name),
        );
        this.faults.add(
          'unknown-name',
          document.place(['trusted', index, 'signal']),
          `There is no signal "${signal}" in this loop.`,
          near ? `Did you mean "${near}"?` : 'Give the full name, such as chamber.level.',
        );
        return [];
      }
      if (!(until > from))
        this.faults.add(
          'outside-limits',
          document.place(['trusted', index, 'until']),
          `The span ${from} … ${until} is empty.`,
          'Give until: a value above from:.',
        );
      return [{ slot: entry.slot, low: from, high: until, because }];
    });
    return { trusted };
  }

  private orderAssignments(): Assignment[] {
    const { assignments } = this.builder.parts;
    const producer = new Map(assignments.map((assignment) => [assignment.slot, assignment]));
    const needs = (assignment: Assignment): Assignment[] => [...slotsRead(assignment.value)].flatMap((slot) => producer.get(slot) ?? []);
    const { order, rings } = orderByNeed(assignments, needs);
    for (const ring of rings) {
      const names = ring.map((assignment) => this.builder.slots[assignment.slot]?.name ?? '');
      this.faults.add(
        'algebraic-ring',
        this.placeOfSlot(names[0] ?? ''),
        `These values depend on each other within one instant: ${[...names, names[0]].reverse().join(' → ')}.`,
        'Break the ring with a state (a lag or an integrator), or let a sampled component stand in it.',
      );
    }
    return order;
  }

  /** Where a continuous value's formula stands. */
  private placeOfSlot(name: string): Place {
    const [head = '', tail = ''] = name.split('.');
    const document = this.instances.get(nameKey(head))?.component.document;
    if (!document) return this.loop.document.place([]);
    const raw = this.instances.get(nameKey(head))?.component.raw.behaviour;
    const inLet = raw?.kind === 'equations' && Object.hasOwn(raw.let ?? {}, tail);
    return document.keyPlace(['behaviour', inLet ? 'let' : 'outputs', tail]);
  }

  private orderTasks(): Task[] {
    const { tasks } = this.builder.parts;
    const owner = new Map(tasks.flatMap((task) => task.logged.map((slot) => [slot, task] as const)));
    const needs = (task: Task): Task[] =>
      [...slotsReadByWork(task.work)].flatMap((slot) => {
        const producer = owner.get(slot);
        return producer && producer.component !== task.component ? [producer] : [];
      });
    const { order, rings } = orderByNeed(tasks, needs);
    for (const ring of rings) {
      const names = ring.map((task) => task.component);
      this.faults.add(
        'sampled-ring',
        this.loop.document.keyPlace(['components', names[0] ?? '']),
        `These sampled components wait for each other within one hit: ${[...names, names[0]].reverse().join(' → ')}.`,
        'Join them in one chart, or let the signal pass through a continuous component.',
      );
    }
    return order;
  }

  private tolerancesOfStates(tolerances: NonNullable<RawLoop['solver']['tolerances']>): StateTolerance[] {
    const { states } = this.builder.parts;
    const names = states.map(({ slot }) => this.builder.slots[slot]?.name ?? '');
    return Object.entries(tolerances).flatMap(([name, tolerance]) => {
      const state = names.findIndex((one) => nameKey(one) === nameKey(name));
      if (state >= 0) return [{ state, ...tolerance }];
      this.tellUnknown(name, this.loop.document.keyPlace(['solver', 'tolerances', name]), 'continuous state', names);
      return [];
    });
  }

  private solver(): Solver {
    const { raw, document } = this.loop;
    const { solver } = raw;
    const fixed = isFixed(solver.method);
    if (fixed && solver.step === undefined)
      this.faults.add('period', document.place(['solver']), 'A fixed-step method needs a step.', 'Add step: 10 ms, dividing all periods.');
    const largest = this.builder.parts.tasks.length > 0 ? Math.min(...this.builder.parts.tasks.map((task) => task.periodNs)) : 1e9;
    const stepNs = solver.step === undefined ? largest : (readTime(solver.step, document.place(['solver', 'step']), this.faults, 1) ?? 1e6);
    if (fixed) {
      for (const task of this.builder.parts.tasks) {
        if (task.periodNs % stepNs !== 0 || task.offsetNs % stepNs !== 0) {
          this.faults.add(
            'period',
            document.place(['solver', 'step']),
            `The step of ${stepNs / 1e6} ms does not divide the period and offset of ${task.component} (${task.periodNs / 1e6} ms).`,
            'Choose a step that divides every period.',
          );
        }
      }
    }
    return {
      method: solver.method,
      stepNs,
      relativeTolerance: solver.relative_tolerance ?? 1e-6,
      absoluteTolerance: solver.absolute_tolerance ?? 1e-8,
      ...(solver.tolerances ? { ofStates: this.tolerancesOfStates(solver.tolerances) } : {}),
      recordEveryNs:
        solver.record_every === undefined ? 0 : (readTime(solver.record_every, document.place(['solver', 'record_every']), this.faults, 1) ?? 0),
    };
  }
}

function list(value: string | readonly string[]): readonly string[] {
  return typeof value === 'string' ? [value] : value;
}

function slotFields(declared: Declared): Declared {
  const { name, type, unit, min, max } = declared;
  return { name, type, unit, ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
}
