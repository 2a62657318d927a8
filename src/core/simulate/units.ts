import { hostedPlaces, type Node, type Plan, type PlanUnit, slotValue } from '@/core/plan';
import type { Hosts } from './hosts';
import type { HostTable } from './types';

/** Tasks of a unit's host: what it has reached is given out; then it goes on by a step. */
const goesOn = 1;

/** What has to be known of the hosts of a plan's units. */
export function unitTables({ units = [] }: Plan): HostTable[] {
  return units.map((unit) => ({
    build: unit.hash,
    room: hostedPlaces.takes + Math.max(unit.inputs.length, unit.outputs.length),
    begun: [],
    marks: [],
    sends: [],
    sites: [],
    unit: unit.component,
  }));
}

/** Values that units are given, in the order in which `UnitSteps` reads them: of each its parameters, then its inputs. */
export function unitValues({ units = [], slots }: Plan): Node[] {
  return units.flatMap(({ parameters, inputs }) => [
    ...parameters.map(({ slot }) => slotValue(slots[slot]?.type ?? 'LREAL', slot)),
    ...inputs.map(({ value }) => value),
  ]);
}

/** The steps of a run's units: each goes on once everything of the instant of its hit is done, so that what it has reached is given out at its next hit. */
export class UnitSteps {
  private readonly due: number[];

  /** @param read the value of one of `unitValues` by its number */
  constructor(
    private readonly units: readonly PlanUnit[],
    private readonly hosts: Hosts,
    private readonly read: (index: number) => number,
  ) {
    this.due = units.map((unit) => unit.offsetNs);
  }

  /** Before the first instant: parameters and the inputs of then. */
  begin(): void {
    this.each((host, first, { parameters, inputs }) => {
      this.hosts.beginWith(
        host,
        Array.from({ length: parameters.length + inputs.length }, (_, index) => this.read(first + index)),
      );
    });
  }

  goOn(nowNs: number): void {
    this.each((host, first, { parameters, inputs, periodNs, offsetNs }) => {
      if (this.due[host] !== nowNs) return;
      const values = this.hosts.values(host);
      inputs.forEach((_, index) => {
        values[hostedPlaces.takes + index] = this.read(first + parameters.length + index);
      });
      this.hosts.hit(host, goesOn, Math.round((nowNs - offsetNs) / periodNs));
      this.due[host] = nowNs + periodNs;
    });
  }

  private each(work: (host: number, first: number, unit: PlanUnit) => void): void {
    let first = 0;
    this.units.forEach((unit, host) => {
      work(host, first, unit);
      first += unit.parameters.length + unit.inputs.length;
    });
  }
}
