import { addBehaviour, NetworkExpansion } from '@/core/behaviour';
import type { LoopDocument, Project } from '@/core/documents';
import type { Faults, Place } from '@/core/fault';
import { PlanBuilder, readTime, userFunctions } from '@/core/formula';
import { nameKey } from '@/core/language';
import type { Plan } from '@/core/plan';
import type { Assembling } from './assembling';
import { Catalogue } from './catalogue';
import { type Constraint, checkConstraints, constraintsOf } from './constraints';
import { holdDisabled } from './enabled';
import { fillCatalogue } from './fillCatalogue';
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
}

/** Turns a loop document into a plan: instances, wires, behaviours, order of evaluation. Every fault on the way is told. */
export function assembleLoop(project: Project, loop: LoopDocument, faults: Faults): AssembledLoop {
  const builder = new PlanBuilder(project.definitions);
  builder.functions = userFunctions(project.library, builder);
  const shared: Assembling = { project, loop, builder, instances: new Map(), catalogue: new Catalogue(), faults };
  const wiring = new Wiring(shared);
  connectInstances(shared, wiring);
  for (const instance of shared.instances.values()) addBehaviour(instance, project, builder, faults);
  applyLoopSets(loop, project, builder, faults);
  holdDisabled(shared, wiring);
  const filled = fillingOnce(shared, wiring);
  const plan = planOf(shared, wiring, filled);
  return {
    plan,
    get catalogue() {
      return filled();
    },
    constraints: constraintsAmong(shared),
  };
}

/** Instances of all components, down to those inside networks, with a source for every input. */
function connectInstances(shared: Assembling, wiring: Wiring): void {
  const networks = new NetworkExpansion(shared.project, shared.builder, shared.faults);
  makeInstances(shared, networks);
  wiring.makeFreeInputs();
  wiring.makeWires();
  wiring.checkConnected();
  networks.connect();
  for (const instance of networks.instances) shared.instances.set(nameKey(instance.name), instance);
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

function planOf(shared: Assembling, wiring: Wiring, filled: () => Catalogue): Plan {
  const { builder, loop, faults } = shared;
  const stopNs = readTime(loop.raw.stop, loop.document.place(['stop']), faults, 1) ?? 1;
  return {
    loop: loop.raw.loop,
    slots: builder.slots,
    get sites() {
      return builder.sites();
    },
    ...builder.parts,
    assignments: orderAssignments(shared),
    tasks: orderTasks(shared),
    solver: solverOf(shared, wiring),
    stopNs,
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
