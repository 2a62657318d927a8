import { hostedPlaces, mostMarks } from '@/core/plan';
import { type BusState, busStates } from '@/core/shapes';
import type { BenchTable } from '@/core/simulate';
import type { HeldFault } from './channelFaults';

/** What the loop hands over at an exchange with the controller on its bench. */
export interface TakenByBench {
  readonly inputs: Float64Array;
  /** In the order of the build's. */
  readonly parameters: number[];
  /** What is the matter with each channel. */
  readonly inputFault: (index: number) => HeldFault;
  readonly outputFault: (index: number) => HeldFault;
  readonly bus: BusState;
}

/** What the loop gets back. */
export interface GivenByBench {
  /** Outputs as they come to the plant. */
  readonly outputs: readonly number[];
  /** Of each region which of its states is active, counted from 1; 0 while none is. */
  readonly regions: readonly number[];
  /** What the controller has read, and what it has written. */
  readonly read: readonly number[];
  readonly written: readonly number[];
  /** How late the exchange was, in the time of the loop (s). */
  readonly late: number;
  /** How many cycles the controller had done by then. */
  readonly cycles: number;
  /** How long the exchange took, in the time of the loop (s). */
  readonly took: number;
}

/** @param values the memory that a host shares with the executive */
export function takenFrom(values: Float64Array, table: BenchTable): TakenByBench {
  const [ins, outs, pars] = [table.inputs.length, table.outputs.length, table.parameters.length];
  const from = hostedPlaces.takes;
  const faults = from + ins + pars;
  const fault =
    (offset: number) =>
    (index: number): HeldFault => ({
      kind: values[faults + 2 * (offset + index)] as number,
      amount: values[faults + 2 * (offset + index) + 1] as number,
    });
  return {
    inputs: values.subarray(from, from + ins),
    parameters: [...values.subarray(from + ins, faults)],
    inputFault: fault(0),
    outputFault: fault(ins),
    bus: busStates[values[faults + 2 * (ins + outs)] as number] ?? 'sound',
  };
}

export function giveTo(values: Float64Array, table: BenchTable, { outputs, regions, read, written, late, cycles, took }: GivenByBench): void {
  const channels = table.inputs.length + table.outputs.length;
  const from = hostedPlaces.takes + table.inputs.length + table.parameters.length + 2 * channels + 1;
  values.set([...outputs, ...regions, ...read, ...written, late, cycles, took], from);
}

/** The states of a controller, followed by what it tells of those it enters and leaves. */
export class StatesTold {
  readonly regions: number[];

  constructor(private readonly table: BenchTable) {
    this.regions = table.regions.map(() => 0);
  }

  /** No state is active: the controller begins anew. */
  clear(): void {
    this.regions.fill(0);
  }

  /** @param told twice the mark of a state, and 1 more where it was entered; it goes on to the executive */
  take(told: number, values: Float64Array): void {
    const at = values[hostedPlaces.marked] as number;
    if (at < mostMarks) values[hostedPlaces.marks + at] = told;
    values[hostedPlaces.marked] = at + 1;
    const mark = Math.floor(told / 2);
    this.table.regions.forEach((all, region) => {
      const index = all.indexOf(mark);
      if (index < 0) return;
      if (told % 2 === 1) this.regions[region] = index + 1;
      else if (this.regions[region] === index + 1) this.regions[region] = 0;
    });
  }
}
