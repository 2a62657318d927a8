import type { ShadowedSignal, ShadowOrder } from '@/core/bench';
import { headOf } from '@/core/build';
import { nameKey } from '@/core/language';
import { columnOwners } from '@/core/plan';
import type { Experiment } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import type { CheckedProject } from '../check';
import { openDesk } from '../desk';
import { asBenchRun } from './benchRun';
import { type BenchInUse, benchOf } from './sheets';

/**
 * The plant of a loop as a shadow: what it computes is compared, what its controller writes comes from elsewhere.
 * @param loop key of the loop, or of a variant
 * @returns a sentence where that cannot be
 */
export function shadowOrder(checked: CheckedProject, loop: string, bench: BenchInUse): ShadowOrder | string {
  const own = benchOf(checked, loop, bench.raw.bench);
  if (typeof own === 'string') return own;
  const desk = openDesk(checked, { loop: checked.loops.get(loop)?.plan.loop ?? loop, requirements: [] });
  if (typeof desk === 'string') return desk;
  const { experiment } = asBenchRun(checked, { experiment: desk.order.experiment, watched: [], limitSeconds: 1 }, own, undefined);
  const { plan } = experiment;
  const controllers = new Set(own.build.components.map(nameKey));
  const signals = plan.faces
    .filter(({ component }) => !controllers.has(headOf(component)))
    .flatMap(({ component, outputs }) =>
      outputs.map(({ name, slot }): ShadowedSignal => {
        const { type = 'LREAL', unit = '' } = plan.slots[slot] ?? {};
        return { name: `${component}.${name}`, type, unit, slot };
      }),
    );
  return { experiment, signals };
}

/** A loop on its bench with another plant as its shadow. */
export interface LiveShadow {
  /** The loop, or variant, whose plant it is. */
  readonly loop: string;
  /** With the signals alone that both have. */
  readonly order: ShadowOrder;
  /** Their slots in the plan of the process. */
  readonly process: readonly number[];
  /** Index of each free input of the process in the plan of the shadow; −1 where it has none. */
  readonly inputs: readonly number[];
}

/** What a shadow and the process on a bench have in common. @returns a sentence where that is nothing */
export function liveShadow(process: Experiment, loop: string, order: ShadowOrder): LiveShadow | string {
  const own = process.plan.faces.flatMap(({ component, outputs }) =>
    outputs.map(({ name, slot }) => [nameKey(`${component}.${name}`), slot] as const),
  );
  const slots = new Map(own);
  const signals = order.signals.filter(({ name }) => slots.has(nameKey(name)));
  if (signals.length === 0) return `The plant of ${loop} computes nothing that the process has as well.`;
  const free = order.experiment.plan.inputs.map(({ name }) => nameKey(name));
  return {
    loop,
    order: { ...order, signals },
    process: signals.map(({ name }) => slots.get(nameKey(name)) ?? 0),
    inputs: process.plan.inputs.map(({ name }) => free.indexOf(nameKey(name))),
  };
}

/** Which columns of a recording are what. */
export interface RecordedProcess {
  /** What the controller wrote, in the order of its channels. */
  readonly outputs: readonly number[];
  /** What people did: free inputs of the loop. */
  readonly inputs: readonly { readonly input: number; readonly column: number }[];
  /** What the process did: columns, and which signals of the shadow these are. */
  readonly signals: readonly number[];
  readonly compared: readonly number[];
}

/** A recording as a process, by the names of its columns. @returns a sentence where it has not what the controller wrote, or nothing to compare */
export function recordedProcess(order: ShadowOrder, recording: Trace): RecordedProcess | string {
  const { plan } = order.experiment;
  const owners = columnOwners(plan);
  /** A signal may stand under its own name, or under that of the one whose value it only passes on, as in traces of Ovrand's own. */
  const columnOf = (name: string, slot: number): number => {
    const names = [name, plan.slots[slot]?.name, plan.slots[owners.get(slot) ?? slot]?.name].map((one) => nameKey(one ?? ''));
    return recording.columns.findIndex((column) => names.includes(nameKey(column.name)));
  };
  const written = order.experiment.hosts?.[0]?.bench?.outputs ?? [];
  const [exchange] = plan.tasks.flatMap(({ work }) => work.filter((one) => one.k === 'hosted'));
  const outputs = written.map(({ name }, index) => columnOf(name, exchange?.gives[index] ?? -1));
  const missing = written.filter((_, index) => (outputs[index] ?? -1) < 0);
  if (missing.length > 0)
    return `The recording has no column for what the controller writes: ${missing.map(({ name }) => name).join(', ')}. Call the columns as the channels are called.`;
  const columns = order.signals.map(({ name, slot }) => columnOf(name, slot));
  const compared = [...columns.keys()].filter((index) => (columns[index] ?? -1) >= 0);
  if (compared.length === 0)
    return `The recording has nothing that the plant computes; it computes ${order.signals.map((one) => one.name).join(', ')}.`;
  return {
    outputs,
    inputs: plan.inputs.flatMap(({ name, slot }, input) => {
      const column = columnOf(name, slot);
      return column < 0 ? [] : [{ input, column }];
    }),
    signals: compared.map((index) => columns[index] as number),
    compared,
  };
}
