import { type Instance, parameterNames, scopeOf } from '@/core/behaviour';
import type { Faults, Place } from '@/core/fault';
import { Formula, type PlanBuilder, typeFormula } from '@/core/formula';
import { evaluate, type Node, type SlotNumber } from '@/core/plan';

/** What the author of a component demands of its parameters together, for one instance. */
export interface Constraint {
  readonly instance: string;
  readonly node: Node;
  readonly text: string;
  readonly message: string | undefined;
}

/** The constraints of an instance's component, bound to its parameters. */
export function constraintsOf(instance: Instance, builder: PlanBuilder, faults: Faults): Constraint[] {
  const { document, raw } = instance.component;
  // Judged before any run, where functions of the project have no value.
  const { functions, ...scope } = scopeOf(parameterNames(instance), builder);
  return (raw.constraints ?? []).flatMap(({ holds, message }, index) => {
    const formula = new Formula(document, ['constraints', index, 'holds'], String(holds), faults);
    const node = typeFormula(formula, 'BOOL', scope);
    return node ? [{ instance: instance.name, node, text: String(holds), message }] : [];
  });
}

/** Tells every constraint that the parameters break. @param place where the values were given */
export function checkConstraints(
  constraints: readonly Constraint[],
  read: (slot: SlotNumber) => number,
  place: (instance: string) => Place,
  faults: Faults,
): void {
  for (const { instance, node, text, message } of constraints) {
    if (evaluate(node, read) === 1) continue;
    faults.add('outside-limits', place(instance), `${instance}: ${message ?? `"${text}" does not hold`}.`, `Choose parameters for which ${text}.`);
  }
}
