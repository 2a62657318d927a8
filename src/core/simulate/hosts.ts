import { hostedPlaces, mostMarks, mostSent } from '@/core/plan';
import type { Host, HostTable } from './types';

/** Where what hosts tell of a hit goes to. */
interface Told {
  mark(state: number, entered: boolean): void;
  send(message: number, value: number): void;
}

/** The hosts of one run, with what has to be known of each. */
export class Hosts {
  private readonly all: readonly Known[];

  /** @throws Error in words when one is missing: nothing may be concluded from a run without it */
  constructor(tables: readonly HostTable[], hosts: readonly Host[], told: Told) {
    const missing = tables[hosts.length];
    if (missing) throw new Error(missingWords(missing));
    this.all = tables.map((table, index) => new Known(table, hosts[index] as Host, told));
  }

  begin(read: (slot: number) => number): void {
    for (const one of this.all) one.begin(read);
  }

  /** Starts one anew with values that are no slots alone. */
  beginWith(host: number, values: readonly number[]): void {
    (this.all[host] as Known).beginWith(values);
  }

  values(host: number): Float64Array {
    return (this.all[host] as Known).values;
  }

  hit(host: number, task: number, hit: number): void {
    (this.all[host] as Known).hit(task, hit);
  }
}

function missingWords({ unit }: HostTable): string {
  return unit === undefined
    ? 'a run that leaves tasks to compiled code was begun without it'
    : `${unit} is a co-simulation unit: only runs of cases and campaigns can load it`;
}

class Known {
  readonly values: Float64Array;
  private readonly marks: ReadonlyMap<number, number>;
  private readonly sends: ReadonlyMap<number, readonly number[]>;

  constructor(
    private readonly table: HostTable,
    private readonly host: Host,
    private readonly told: Told,
  ) {
    this.values = host.room(table.room);
    this.marks = new Map(table.marks);
    this.sends = new Map(table.sends.map(({ mark, to }) => [mark, to]));
  }

  begin(read: (slot: number) => number): void {
    if (!this.table.unit) this.host.begin(Float64Array.from(this.table.begun, read));
  }

  beginWith(values: readonly number[]): void {
    this.host.begin(Float64Array.from(values));
  }

  /** @throws RangeError for a run-time error of the code */
  hit(task: number, hit: number): void {
    const { values } = this;
    this.host.hit(task, hit);
    const fault = values[hostedPlaces.fault] as number;
    if (fault !== 0) throw new RangeError(this.faultWords(fault - 1));
    this.tell(values[hostedPlaces.marked] as number);
  }

  private tell(count: number): void {
    if (count > mostMarks) throw new RangeError(`more than ${mostMarks} states were entered or left in one hit`);
    let sent = 0;
    for (let index = 0; index < count; index += 1) {
      const told = this.values[hostedPlaces.marks + index] as number;
      const number = Math.floor(told / 2);
      const to = this.sends.get(number);
      if (to === undefined) {
        const mark = this.marks.get(number);
        if (mark !== undefined) this.told.mark(mark, told % 2 === 1);
        continue;
      }
      if (sent >= mostSent) throw new RangeError(`more than ${mostSent} messages were sent in one hit`);
      for (const message of to) this.told.send(message, this.values[hostedPlaces.sent + sent] as number);
      sent += 1;
    }
  }

  private faultWords(site: number): string {
    const found = this.table.sites[site];
    return `run-time error of the code${found ? ` in "${found.text}" (${found.file}:${found.line}:${found.column})` : ''}`;
  }
}
