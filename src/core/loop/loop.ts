import { addBehaviour, NetworkExpansion } from '@/core/behaviour';
import type { LoopDocument, Project } from '@/core/documents';
import { Faults, type Place } from '@/core/fault';
import { PlanBuilder, readTime, userFunctions } from '@/core/formula';
import { nameKey } from '@/core/language';
import { numberedDecisions, type Plan, type PositionInfo } from '@/core/plan';
import type { RawOwnSolver } from '@/core/shapes';
import type { Assembling } from './assembling';
import { Catalogue } from './catalogue/catalogue';
import { fillCatalogue } from './catalogue/fillCatalogue';
import { type Constraint, checkConstraints, constraintsOf } from './constraints';
import { holdDisabled } from './enabled';
import { facesOf } from './faces';
import { type FaultyEnd, FaultyWires, type WireEnd } from './faultyWires';
import { makeInstances } from './instances';
import { applyLoopSets } from './loopSets';
import { orderAssignments, orderTasks } from './order';
import { solverOf } from './solver';
import { trustedSpans } from './trusted';
import { Wiring } from './wiring';

export interface AssembledLoop {
  readonly plan: Plan;
  readonly catalogue: Catalogue;
  /** What the parameters of its components have to keep to, in cases as well. */
  readonly constraints: readonly Constraint[];
  /** The inputs of its components that are wired to signals. */
  readonly wireEnds: readonly WireEnd[];
  /** The same loop with wires that may be faulty in a run: what it had keeps its slots. Asked for the same ends, it is the same loop. */
  readonly withFaultyWires: (ends: readonly FaultyEnd[]) => FaultyLoop;
  /** The same loop with other settings of its solver; what does not go with them is told. Asked for the same settings, it is the same loop. */
  readonly withSolver: (settings: RawOwnSolver, faults: Faults) => AssembledLoop;
}

/** A loop some of whose wires may be faulty. */
export interface FaultyLoop extends AssembledLoop {
  readonly faulty: FaultyWires;
}

/** Turns a loop document into a plan: instances, wires, behaviours, order of evaluation. Every fault on the way is told. */
export function assembleLoop(project: Project, loop: LoopDocument, faults: Faults): AssembledLoop {
  return new Assembled(project, loop, faults);
}

class Assembled implements AssembledLoop {
  readonly plan: Plan;
  readonly constraints: readonly Constraint[];
  private readonly shared: Assembling;
  private readonly filled: () => Catalogue;
  private ends: readonly WireEnd[] | undefined;
  private readonly withFaults = new Map<string, FaultyLoop>();
  private readonly solved = new Map<string, { readonly loop: AssembledLoop; readonly faults: Faults }>();

  constructor(
    private readonly project: Project,
    private readonly loop: LoopDocument,
    faults: Faults,
    faulty?: FaultyWires,
  ) {
    const builder = new PlanBuilder(project.definitions);
    builder.functions = userFunctions(project.library, builder);
    this.shared = { project, loop, builder, instances: new Map(), catalogue: new Catalogue(project.definitions), faults, faulty };
    const wiring = new Wiring(this.shared);
    const positions = connectInstances(this.shared, wiring);
    for (const instance of this.shared.instances.values()) addBehaviour(instance, project, builder, faults);
    applyLoopSets(loop, project, builder, faults);
    holdDisabled(this.shared, wiring);
    faulty?.build(builder);
    this.filled = fillingOnce(this.shared, wiring);
    this.plan = planOf(this.shared, wiring, positions, this.filled);
    this.constraints = constraintsAmong(this.shared);
  }

  get catalogue(): Catalogue {
    return this.filled();
  }

  withFaultyWires(ends: readonly FaultyEnd[]): FaultyLoop {
    const key = JSON.stringify(ends);
    const known = this.withFaults.get(key);
    if (known) return known;
    const faulty = new FaultyWires(ends, this.plan.slots.length);
    // What is wrong with the loop was told when it was assembled without.
    const found = Object.assign(new Assembled(this.project, this.loop, new Faults(), faulty), { faulty });
    this.withFaults.set(key, found);
    return found;
  }

  withSolver(settings: RawOwnSolver, faults: Faults): AssembledLoop {
    const key = JSON.stringify(settings);
    const found = this.solved.get(key) ?? this.assembledWith(settings);
    this.solved.set(key, found);
    for (const { code, place, message, fix } of found.faults.all()) faults.add(code, place, message, fix);
    return found.loop;
  }

  private assembledWith(settings: RawOwnSolver): { readonly loop: AssembledLoop; readonly faults: Faults } {
    const faults = new Faults();
    const { raw } = this.loop;
    return { loop: new Assembled(this.project, { ...this.loop, raw: { ...raw, solver: { ...raw.solver, ...settings } } }, faults), faults };
  }

  get wireEnds(): readonly WireEnd[] {
    this.ends ??= wireEndsOf(this.shared);
    return this.ends;
  }
}

function wireEndsOf({ instances, builder, faulty }: Assembling): WireEnd[] {
  return [...instances.values()].flatMap((instance) =>
    [...instance.inputs.values()].flatMap(({ name, source, ...declared }): WireEnd[] => {
      if (source?.node.k !== 'slot' || instance.name.includes('.')) return [];
      const slot = faulty?.sourceOf(source.node.slot) ?? source.node.slot;
      const type = builder.slots[slot]?.type ?? declared.type;
      return [{ name, type, unit: declared.unit, slot }];
    }),
  );
}

/** Instances of all components, down to those inside networks, with a source for every input. @returns the positions of elements */
function connectInstances(shared: Assembling, wiring: Wiring): PositionInfo[] {
  const networks = new NetworkExpansion(shared.project, shared.builder, shared.faults);
  makeInstances(shared, networks);
  wiring.makeFreeInputs();
  wiring.makeWires();
  wiring.checkConnected();
  networks.connect();
  for (const instance of networks.instances) shared.instances.set(nameKey(instance.name), instance);
  return networks.positions();
}

/** The catalogue is filled when it is first asked for: who only runs the plan needs no names. */
function fillingOnce(shared: Assembling, wiring: Wiring): () => Catalogue {
  let isFilled = false;
  return () => {
    if (!isFilled) fillCatalogue(shared, wiring.free.values());
    isFilled = true;
    return shared.catalogue;
  };
}

function planOf(shared: Assembling, wiring: Wiring, positions: readonly PositionInfo[], filled: () => Catalogue): Plan {
  const { builder, loop, faults } = shared;
  const stopNs = readTime(loop.raw.stop, loop.document.place(['stop']), faults, 1) ?? 1;
  const tasks = orderTasks(shared);
  return {
    loop: loop.raw.loop,
    slots: builder.slots,
    internal: builder.internal,
    get sites() {
      return builder.sites();
    },
    ...builder.parts,
    assignments: orderAssignments(shared),
    tasks,
    decisions: numberedDecisions({ tasks }, builder.decisions),
    positions: [...positions, ...wiring.limits()],
    faces: facesOf(shared),
    solver: solverOf(shared, wiring),
    stopNs,
    ...(builder.units.length > 0 ? { units: builder.units } : {}),
    ...(builder.delays.length > 0 ? { delays: builder.delays } : {}),
    ...(loop.raw.trusted?.length ? trustedSpans(loop, filled(), faults) : {}),
  };
}

/** What has to hold between parameters, checked at the values they start with. */
function constraintsAmong({ loop, builder, instances, faults }: Assembling): Constraint[] {
  const constraints = [...instances.values()].flatMap((instance) => constraintsOf(instance, builder, faults));
  const place = (instance: string): Place => loop.document.keyPlace(['components', instance.split('.')[0] ?? '']);
  checkConstraints(constraints, (slot) => builder.slots[slot]?.start ?? Number.NaN, place, faults);
  return constraints;
}
