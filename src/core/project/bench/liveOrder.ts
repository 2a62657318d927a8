import { type BenchSlots, benchExperiment, type Wiring } from '@/core/bench';
import { nameKey } from '@/core/language';
import type { ValueType } from '@/core/plan';
import type { CheckedProject } from '../check';
import { openDesk } from '../desk';
import { asBenchRun, type BenchController, type BenchOrder, setupOf } from './benchRun';
import { labelsOf } from './benchView';
import { type LiveShadow, liveShadow, shadowOrder } from './shadowOrder';
import type { BenchInUse } from './sheets';

/** Something that people set while a bench runs. */
export interface LiveHandle {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  readonly min?: number;
  readonly max?: number;
  /** Names of the values 0, 1, … of an enumeration. */
  readonly labels?: readonly string[];
  /** Value at the begin: of a parameter, as designed. */
  readonly start: number;
  /** Of a free input: its index in the plan; of a parameter: its slot. */
  readonly at: number;
}

/** A bench that is run by hand. */
export interface LiveOrder {
  readonly order: BenchOrder;
  readonly wiring: Wiring;
  readonly slots: BenchSlots;
  /** Free inputs of the loop, and parameters of the controller in the order of the build. */
  readonly inputs: readonly LiveHandle[];
  readonly parameters: readonly LiveHandle[];
  /** Another plant that runs beside. */
  readonly shadow?: LiveShadow;
  /** What is told beside the channels: outputs of all components, and free inputs. */
  readonly watched: readonly { readonly slot: number; readonly name: string; readonly type: ValueType; readonly unit: string }[];
}

/** Signals that are told at most. */
const mostWatched = 400;

/**
 * A loop on its bench without a case: nothing happens but what people do.
 * @param startFrom a case whose parameters and start values count; @param shadow a loop, or variant, whose plant runs beside
 * @returns a sentence where that cannot be
 */
export function liveOrder(
  checked: CheckedProject,
  bench: BenchInUse,
  loop: string,
  program: BenchController['program'],
  { startFrom, shadow }: { readonly startFrom?: string; readonly shadow?: string } = {},
): LiveOrder | string {
  const desk = openDesk(checked, {
    loop: checked.loops.get(loop)?.plan.loop ?? loop,
    requirements: [],
    ...(startFrom === undefined ? {} : { startFrom }),
  });
  if (typeof desk === 'string') return desk;
  const { experiment } = desk.order;
  const order = asBenchRun(checked, { experiment, watched: [], limitSeconds: Number.MAX_SAFE_INTEGER / 1e6 }, bench, program);
  const { slots } = benchExperiment(experiment, setupOf(bench));
  const beside = shadow === undefined ? undefined : besideOf(checked, order, bench, shadow);
  if (typeof beside === 'string') return beside;
  const { plan } = order.experiment;
  const handle = (slot: number, at: number): LiveHandle => {
    const { name, type, unit, min, max, start, enumeration } = plan.slots[slot] as (typeof plan.slots)[number];
    const own = new Map(experiment.overrides).get(slot) ?? start;
    return {
      name,
      type,
      unit,
      start: own,
      at,
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
      ...labelsOf(enumeration),
    };
  };
  const begun = order.experiment.hosts?.[0]?.begun ?? [];
  const outputs = plan.faces.flatMap((face) => face.outputs.map(({ name, slot }) => ({ slot, name: `${face.component}.${name}` })));
  const free = plan.inputs.map(({ name, slot }) => ({ slot, name }));
  return {
    order,
    wiring: bench.wiring,
    slots,
    ...(beside ? { shadow: beside } : {}),
    inputs: plan.inputs.map(({ name, slot }, index) => ({ ...handle(slot, index), name })),
    parameters: order.bench.program ? begun.map((slot) => handle(slot, slot)) : [],
    watched: [...free, ...outputs].slice(0, mostWatched).map(({ slot, name }) => ({
      slot,
      name,
      type: plan.slots[slot]?.type ?? 'LREAL',
      unit: plan.slots[slot]?.unit ?? '',
    })),
  };
}

function besideOf(checked: CheckedProject, { experiment }: BenchOrder, bench: BenchInUse, loop: string): LiveShadow | string {
  const order = shadowOrder(checked, nameKey(loop), bench);
  return typeof order === 'string' ? order : liveShadow(experiment, loop, order);
}

/** A handle by its name. */
export function handleNamed(handles: readonly LiveHandle[], name: string): LiveHandle | undefined {
  return handles.find((one) => nameKey(one.name) === nameKey(name));
}
