import koffi from 'koffi';
import { hostedPlaces, integerRange, type Plan, type PlanUnit, type UnitPin } from '@/core/plan';
import type { UnitToRun } from '@/core/project';
import type { Host } from '@/core/simulate';
import { timeWords } from '@/core/wording';
import { type Instance, type Library, Said, type UnitCalls } from './library';
import { Version2 } from './version2';
import { Version3 } from './version3';

/** Variables of one type, asked for together. */
interface Together {
  readonly kind: string;
  readonly references: Uint32Array;
  /** Where their values stand in the whole list. */
  readonly places: readonly number[];
}

const goesOn = 1;
const [ok, warning, discard] = [0, 1, 2];

/**
 * The units of a plan, loaded into this process: what one of them does wrong may end it. Not for a process that others rely on.
 * @param units in the order of the plan's
 * @throws Error in words when one cannot be loaded
 */
export function unitHosts(plan: Plan, units: readonly UnitToRun[] = []): UnitHost[] {
  const used = new Set<string>();
  return units.map((unit, index) => {
    if (unit.isAlone && used.has(unit.library)) throw new Error(`the unit ${unit.name} may be there only once in a run`);
    used.add(unit.library);
    return new UnitHost(unit, (plan.units as readonly PlanUnit[])[index] as PlanUnit, plan);
  });
}

/** A co-simulation unit of a run. */
export class UnitHost implements Host {
  private values = new Float64Array();
  private readonly said = new Said();
  private readonly library: Library;
  private readonly calls: UnitCalls;
  private readonly outputs: readonly Together[];
  private readonly inputs: readonly Together[];
  private instance: Instance;
  private isFailed = false;

  constructor(
    unit: UnitToRun,
    private readonly planned: PlanUnit,
    private readonly plan: Plan,
  ) {
    try {
      this.library = koffi.load(unit.library);
      this.calls = unit.version === 2 ? new Version2(this.library, unit, this.said) : new Version3(this.library, unit, this.said);
    } catch (problem) {
      throw new Error(`the unit ${planned.component} cannot be loaded: ${problem instanceof Error ? problem.message : String(problem)}`);
    }
    this.outputs = together(planned.outputs);
    this.inputs = together(planned.inputs);
  }

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(values: Float64Array): void {
    const { calls, planned } = this;
    this.leave();
    this.instance = calls.instantiate(planned.component);
    if (!this.instance) throw this.problem('does not let itself be instantiated');
    const { parameters } = planned;
    for (const { kind, references, places } of together(parameters))
      this.check(calls.set(this.instance, kind, references, picked(values, places)), 'does not take its parameters');
    this.check(calls.enterInitialization(this.instance, planned.offsetNs / 1e9), 'does not begin to initialize');
    this.give(values.subarray(parameters.length));
    this.check(calls.exitInitialization(this.instance), 'does not initialize');
  }

  hit(task: number, hit: number): void {
    if (task === goesOn) this.step(hit);
    else this.tell(hit);
  }

  private step(hit: number): void {
    const { planned, calls, values } = this;
    this.give(values.subarray(hostedPlaces.takes));
    const at = planned.offsetNs + hit * planned.periodNs;
    const { status, wantsEnd } = calls.step(this.instance, at / 1e9, planned.periodNs / 1e9);
    const step = `its step from ${timeWords(at / 1e9)}`;
    if (status === discard) throw this.problem(`could not finish ${step}`);
    this.check(status, `failed in ${step}`);
    if (wantsEnd) throw this.problem(`wants the run to end in ${step}`);
  }

  private give(values: Float64Array): void {
    for (const { kind, references, places } of this.inputs)
      this.check(this.calls.set(this.instance, kind, references, picked(values, places)), 'does not take its inputs');
  }

  /** Values that the plan cannot hold end the run: nobody has given them. */
  private tell(hit: number): void {
    const { planned, plan, values } = this;
    const from = hostedPlaces.takes;
    for (const { kind, references, places } of this.outputs) {
      const found: number[] = [];
      this.check(this.calls.get(this.instance, kind, references, found), 'does not give its outputs');
      places.forEach((place, index) => {
        values[from + place] = found[index] as number;
      });
    }
    planned.outputs.forEach(({ slot, name }, index) => {
      const value = values[from + index] as number;
      const type = plan.slots[slot]?.type ?? 'LREAL';
      const range = integerRange[type];
      if (!Number.isFinite(value) || (range && (value < range[0] || value > range[1])))
        throw this.problem(`gives ${value} for ${name} at ${timeWords((planned.offsetNs + hit * planned.periodNs) / 1e9)}, which is no ${type}`);
      if (type === 'REAL') values[from + index] = Math.fround(value);
    });
  }

  private check(status: number, what: string): void {
    if (status !== ok && status !== warning) throw this.problem(what);
  }

  private problem(what: string): RangeError {
    this.isFailed = true;
    const { last } = this.said;
    return new RangeError(`the unit ${this.planned.component} ${what}${last ? `: ${last}` : ''}`);
  }

  /** Lets the instance go; one that has failed is left as it is, for nothing may be asked of it. */
  private leave(): void {
    if (this.instance && !this.isFailed) {
      this.calls.terminate(this.instance);
      this.calls.free(this.instance);
    }
    this.instance = undefined;
  }

  close(): void {
    this.leave();
    this.calls.close();
    this.library.unload();
  }
}

function together(pins: readonly UnitPin[]): Together[] {
  const kinds = [...new Set(pins.map(({ kind }) => kind))];
  return kinds.map((kind) => {
    const places = [...pins.keys()].filter((place) => pins[place]?.kind === kind);
    return { kind, places, references: Uint32Array.from(places, (place) => pins[place]?.reference ?? 0) };
  });
}

function picked(values: Float64Array, places: readonly number[]): number[] {
  return places.map((place) => values[place] as number);
}
