import type { PlannedBuild } from '@/core/build';
import { hostedPlaces } from '@/core/plan';
import type { BenchTable, Host } from '@/core/simulate';
import { ModelAnswer } from './answer';
import { countOf, fromCount } from './channel';
import { Lane } from './channelFaults';
import { giveTo, StatesTold, takenFrom } from './exchange';

/** When a controller works with the inputs of an exchange: before its outputs are read in that exchange, or in the next one. */
export type Promptness = 'at once' | 'by the next exchange';

/**
 * A controller on a bench where nothing ever pauses: the model of its build behind the same channels and faults. By each exchange it has done just the cycles that are due by then.
 * A run on a real bench lies between the two kinds of promptness, as far as neither side pauses.
 */
export class EvenController implements Host {
  private values = new Float64Array();
  private model: ModelAnswer | undefined;
  private before: readonly number[] | undefined;
  private readonly states: StatesTold;
  private readonly inputLane: Lane;
  private readonly outputLane: Lane;
  /** The bus was not sound at some time: what a controller does then is not modelled. */
  hasLostBus = false;

  /** @param pins slots of the build that the channels are; @param seed of the run, for noise on channels */
  constructor(
    private readonly build: PlannedBuild,
    private readonly table: BenchTable,
    private readonly pins: { readonly inputs: readonly number[]; readonly outputs: readonly number[] },
    seed: number,
    private readonly promptness: Promptness,
  ) {
    this.states = new StatesTold(table);
    this.inputLane = new Lane(table.inputs, seed, 0);
    this.outputLane = new Lane(table.outputs, seed, table.inputs.length);
  }

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(parameters: Float64Array): void {
    this.model = new ModelAnswer(this.build, this.table, this.pins, [...parameters], (told) => this.states.take(told, this.values));
  }

  hit(_task: number, hit: number): void {
    const { values, table, model } = this;
    if (!model) throw new Error('a controller was asked before it had begun');
    values[hostedPlaces.fault] = 0;
    values[hostedPlaces.marked] = 0;
    const taken = takenFrom(values, table);
    if (taken.bus !== 'sound') this.hasLostBus = true;
    const counts = table.inputs.map((channel, index) => countOf(channel, taken.inputs[index] as number));
    const read = this.inputLane
      .pass(counts, taken.inputFault)
      .map((count, index) => fromCount(table.inputs[index] as BenchTable['inputs'][number], count));
    const due = Math.floor((hit * table.cycleNs) / model.cycleNs) + 1;
    model.setParameters(taken.parameters);
    const before = this.before ?? read;
    model.goOn(this.promptness === 'at once' && hit > 0 ? due - 1 : due, before);
    const written = model.goOn(due, read).map((value, index) => countOf(table.outputs[index] as BenchTable['outputs'][number], value));
    this.before = read;
    values[hostedPlaces.fault] = model.faultSite;
    const value = (count: number, index: number): number => fromCount(table.outputs[index] as BenchTable['outputs'][number], count);
    giveTo(values, table, {
      outputs: this.outputLane.pass(written, taken.outputFault).map(value),
      regions: this.states.regions,
      read,
      written: written.map(value),
      late: 0,
      cycles: due,
      took: 0,
    });
  }
}
