import { headOf, Matching, type PlannedBuild } from '@/core/build';
import { enumerated } from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  type HostedWork,
  hostedPlaces,
  hostedRoom,
  type Node,
  type Plan,
  type Slot,
  type SlotNumber,
  slotsRead,
  slotValue,
  type Task,
} from '@/core/plan';
import type { RawChannelFault } from '@/core/shapes';
import type { BenchTable, Experiment, HostTable, ScriptStep } from '@/core/simulate';
import { busKind, heldFault } from './channelFaults';
import type { Wiring } from './wiring';

/** What a run on a bench needs to know beside its case. */
export interface BenchSetup {
  readonly build: PlannedBuild;
  readonly wiring: Wiring;
  readonly cycleNs: number;
  /** How many times faster than the wall's the clock of the bench goes. */
  readonly speed: number;
  /** How late a cycle may begin, by the clock on the wall. */
  readonly latenessNs: number;
  /** The controller tells the states of its charts. */
  readonly tellsStates: boolean;
}

/** Columns of the trace that tell of each exchange: how late it was (s), how many cycles the controller had done when its outputs were read, and how long it took (s). */
export const exchangeColumns = { late: 'bench late', cycles: 'controller cycles', took: 'bench exchange' } as const;

/** Slots by which a run puts faults on the bench. */
export interface BenchSlots {
  /** By the key of the channel's name. */
  readonly channels: ReadonlyMap<string, { readonly kind: SlotNumber; readonly amount: SlotNumber }>;
  readonly bus: SlotNumber;
  /** What the controller has read, and what it has written, in the order of the channels. */
  readonly read: readonly SlotNumber[];
  readonly written: readonly SlotNumber[];
  /** How late each exchange was, in the time of the loop (s); how many cycles the controller had done by then; how long it took, in the time of the loop (s). */
  readonly exchanges: readonly SlotNumber[];
}

/** An experiment whose controller is a real one on a bench. */
export interface BenchExperiment {
  readonly experiment: Experiment;
  readonly slots: BenchSlots;
  /** What of the controller the bench cannot see: inner variables. */
  readonly unseen: ReadonlySet<SlotNumber>;
}

/**
 * An experiment in which one exchange with a controller takes the place of the controller's tasks, each cycle of the bench.
 * @throws Error in words when the case asks for what the bench cannot see or do
 */
export function benchExperiment(experiment: Experiment, setup: BenchSetup): BenchExperiment {
  return new Making(experiment, setup).made();
}

class Making {
  private readonly plan: Plan;
  private readonly match: Matching;
  private readonly slots: Slot[];
  private readonly bench: BenchSlots;

  constructor(
    private readonly experiment: Experiment,
    private readonly setup: BenchSetup,
  ) {
    this.plan = experiment.plan;
    this.match = new Matching(this.plan, setup.build);
    this.slots = [...this.plan.slots];
    this.bench = this.layBench();
  }

  made(): BenchExperiment {
    const { plan, experiment, setup, match, bench } = this;
    const held = plan.faces.find(({ component, isHeld }) => isHeld && this.isOwn(component));
    if (held) throw new Error(`${held.component} can be switched off in this loop; a controller on a bench always runs`);
    const { task, table } = this.exchange();
    const own = plan.tasks.filter((one) => this.isOwn(one.component));
    const at = plan.tasks.findIndex((one) => this.isOwn(one.component));
    const others = plan.tasks.filter((one) => !this.isOwn(one.component));
    const before = plan.tasks.slice(0, Math.max(0, at)).filter((one) => !this.isOwn(one.component)).length;
    const seen = new Set(task.logged);
    const unseen = new Set(own.flatMap((one) => one.logged).filter((slot) => !seen.has(slot)));
    this.refuseUnseen(unseen);
    const tasks = [...others.slice(0, before), task, ...others.slice(before)];
    const parameters = [...plan.parameters, ...[...bench.channels.values()].flatMap(({ kind, amount }) => [kind, amount]), bench.bus];
    const limited = plan.limited.filter(({ slot, inside }) => !unseen.has(slot) && ![...slotsRead(inside)].some((one) => unseen.has(one)));
    const { sites } = match.table();
    const known = { build: setup.build.fingerprint, sites, ...table };
    return {
      experiment: {
        ...experiment,
        plan: { ...plan, slots: this.slots, tasks, parameters, limited, transitions: [], decisions: [], positions: [] },
        script: this.script(experiment.script),
        hosts: [known],
      },
      slots: bench,
      unseen,
    };
  }

  private isOwn(component: string): boolean {
    return this.setup.build.components.some((one) => nameKey(one) === headOf(component));
  }

  private slot(slot: Omit<Slot, 'start'> & { readonly start?: number }): SlotNumber {
    return this.slots.push({ start: 0, ...slot }) - 1;
  }

  private layBench(): BenchSlots {
    const { inputs, outputs } = this.setup.wiring;
    const read = inputs.map((pin) => this.slot({ name: `${pin.name} as read`, type: pin.type, unit: pin.unit, ...enumerated(pin) }));
    const written = outputs.map((pin) => this.slot({ name: `${pin.name} as written`, type: pin.type, unit: pin.unit, ...enumerated(pin) }));
    const channels = new Map(
      [...inputs, ...outputs].map(({ name }) => {
        const kind = this.slot({ name: `${name} fault`, type: 'DINT', unit: '' });
        return [nameKey(name), { kind, amount: this.slot({ name: `${name} amount`, type: 'LREAL', unit: '' }) }] as const;
      }),
    );
    const bus = this.slot({ name: 'bus fault', type: 'DINT', unit: '' });
    const exchanges = [
      this.slot({ name: exchangeColumns.late, type: 'LREAL', unit: 's' }),
      this.slot({ name: exchangeColumns.cycles, type: 'UDINT', unit: '' }),
      this.slot({ name: exchangeColumns.took, type: 'LREAL', unit: 's' }),
    ];
    return { read, written, channels, bus, exchanges };
  }

  private exchange(): { readonly task: Task; readonly table: Omit<HostTable, 'build' | 'sites'> } {
    const { match, bench, setup } = this;
    const { build, wiring, cycleNs, speed, latenessNs } = setup;
    const regions = setup.tellsStates ? build.plan.regions : [];
    const faults = [...bench.channels.values()].flatMap(({ kind, amount }): Node[] => [slotValue('DINT', kind), slotValue('LREAL', amount)]);
    const takes: Node[] = [
      ...wiring.inputs.map(({ slot }) => match.value(slot)),
      ...build.plan.parameters.map((slot) => match.value(slot)),
      ...faults,
      slotValue('DINT', bench.bus),
    ];
    const outputs = wiring.outputs.map(({ slot }) => match.slot(slot));
    const gives = [...outputs, ...regions.map(({ slot }) => match.slot(slot)), ...bench.read, ...bench.written, ...bench.exchanges];
    const work: HostedWork = { k: 'hosted', host: this.plan.units?.length ?? 0, task: 0, takes, gives };
    const faulty = this.faultyKinds();
    const table: BenchTable = {
      cycleNs,
      speed,
      latenessNs,
      inputs: wiring.inputs,
      outputs: wiring.outputs,
      parameters: build.plan.parameters.map((slot) => build.plan.slots[slot]?.name ?? ''),
      regions: regions.map(({ states }) => states.map((state) => state.mark)),
    };
    return {
      task: { component: 'bench', periodNs: cycleNs, offsetNs: 0, work: [work], logged: [...gives, ...faulty] },
      table: {
        room: Math.max(hostedPlaces.takes, hostedRoom(work)),
        begun: build.plan.parameters.map((slot) => match.slot(slot)),
        marks: match.table().marks,
        sends: [],
        bench: table,
      },
    };
  }

  /** Faults that are in the trace: those of the case. */
  private faultyKinds(): SlotNumber[] {
    const found = new Set<SlotNumber>();
    for (const step of benchSteps(this.experiment.script)) {
      if ('bus' in step.fault) found.add(this.bench.bus);
      else found.add(this.faultSlots(step.fault.channel).kind);
    }
    return [...found];
  }

  private faultSlots(name: string): { readonly kind: SlotNumber; readonly amount: SlotNumber } {
    const found = this.bench.channels.get(nameKey(name));
    if (!found) throw new Error(`the bench has no channel "${name}"`);
    return found;
  }

  private script(steps: readonly ScriptStep[]): ScriptStep[] {
    return steps.map((step): ScriptStep => {
      if (step.k === 'together') return { ...step, lines: step.lines.map((line) => this.script(line)) };
      if (step.k !== 'bench') return step;
      return { k: 'fault', sets: faultSets(step.fault, this.setup.wiring, this.bench), text: step.text };
    });
  }

  /** A wait, an end or a start that reads what nobody sees would read a constant. */
  private refuseUnseen(unseen: ReadonlySet<SlotNumber>): void {
    for (const node of this.experiment.conditions)
      for (const slot of slotsRead(node))
        if (unseen.has(slot))
          throw new Error(`the case waits for ${this.plan.slots[slot]?.name ?? ''}, an inner value of the controller, which a bench cannot see`);
  }
}

/** What the slots of a bench become by a fault. @throws Error in words */
export function faultSets(fault: RawChannelFault, wiring: Wiring, slots: BenchSlots): { readonly slot: SlotNumber; readonly value: number }[] {
  if ('bus' in fault) return [{ slot: slots.bus, value: busKind(fault.bus) }];
  const lane = [wiring.inputs, wiring.outputs].find((one) => one.some((pin) => nameKey(pin.name) === nameKey(fault.channel)));
  const channel = lane?.find((pin) => nameKey(pin.name) === nameKey(fault.channel));
  const places = slots.channels.get(nameKey(fault.channel));
  if (!lane || !channel || !places) throw new Error(`the bench has no channel "${fault.channel}"`);
  const { kind, amount } = heldFault(fault, channel, lane);
  return [
    { slot: places.kind, value: kind },
    { slot: places.amount, value: amount },
  ];
}

/** The steps of a script that only a bench can do. */
export function benchSteps(steps: readonly ScriptStep[]): (ScriptStep & { readonly k: 'bench' })[] {
  return steps.flatMap((step) => (step.k === 'bench' ? [step] : step.k === 'together' ? step.lines.flatMap(benchSteps) : []));
}
