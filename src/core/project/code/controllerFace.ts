import type { PlannedBuild } from '@/core/build';
import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import { groupTasks, type ValueType } from '@/core/plan';

interface Pin {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  /** Where its value comes from in the loop. */
  readonly from?: string;
}

/** What a build shows to the outside. */
export interface ControllerFace {
  readonly components: readonly string[];
  readonly inputs: readonly Pin[];
  readonly outputs: readonly Pin[];
  readonly parameters: readonly Pin[];
  /** How often its components work: period and offset (ns). */
  readonly rates: readonly { readonly components: readonly string[]; readonly periodNs: number; readonly offsetNs: number }[];
}

/** The face of a build in a loop: inputs with the signals they get there, outputs of its components, parameters, tasks. */
export function controllerFace({ components, plan, inputs }: PlannedBuild, loop: AssembledLoop | undefined): ControllerFace {
  const pin = (slot: number, from?: string): Pin[] => {
    const info = plan.slots[slot];
    return info ? [{ name: info.name, type: info.type, unit: info.unit, ...(from ? { from } : {}) }] : [];
  };
  const own = plan.faces.filter(({ component }) => components.some((one) => nameKey(one) === nameKey(component)));
  return {
    components,
    inputs: inputs.flatMap(({ name, component, port }) => {
      const input = plan.inputs.find((one) => nameKey(one.name) === nameKey(name));
      const face = loop?.plan.faces.find((one) => nameKey(one.component) === nameKey(component));
      const source = face?.inputs.find((one) => nameKey(one.name) === nameKey(port))?.value;
      const from = source?.k === 'slot' ? loop?.plan.slots[source.slot]?.name : undefined;
      return input ? pin(input.slot, from) : [];
    }),
    outputs: own.flatMap(({ component, outputs }) =>
      outputs.flatMap(({ name, slot }) => pin(slot).map((one) => ({ ...one, name: `${component}.${name}` }))),
    ),
    parameters: plan.parameters.flatMap((slot) => pin(slot)),
    rates: groupTasks(plan).map(({ periodNs, offsetNs, tasks }) => ({
      components: [...new Set(tasks.map((task) => plan.tasks[task]?.component.split('.')[0] ?? ''))],
      periodNs,
      offsetNs,
    })),
  };
}
