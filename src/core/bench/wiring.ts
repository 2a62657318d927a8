import type { PlannedBuild } from '@/core/build';
import { enumerated } from '@/core/formula';
import { nameKey, nearestName, printDuration, readDuration } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { Plan } from '@/core/plan';
import type { RawBench, RawChannel } from '@/core/shapes';
import { isMeasured } from './channel';
import { type ChannelWish, type Pin, pinRefusal, pinsOf, refusals } from './header';

/** A channel as it is wired. */
export interface WiredPin extends Pin {
  /** The signal of the loop at its other end; of an output the inputs it drives. */
  readonly signal: string;
  /** Register, from the first of its direction on. */
  readonly register: number;
}

/** A wiring sheet that fits its build. */
export interface Wiring {
  readonly inputs: readonly WiredPin[];
  readonly outputs: readonly WiredPin[];
}

/** What is wrong with a wiring sheet, and where in it. */
export interface WiringFault {
  readonly path: readonly (string | number)[];
  readonly message: string;
  readonly fix: string;
}

/** Registers of the protocol (docs/bench-protocol.md) where channels begin. */
export const firstInput = 1000;
export const firstOutput = 1000;

/**
 * A wiring sheet held against the build of a loop.
 * @returns the wiring as far as it fits, and all that does not
 */
export function wiringOf(
  raw: RawBench,
  planned: PlannedBuild,
  loop: AssembledLoop,
): { readonly wiring: Wiring; readonly faults: readonly WiringFault[] } {
  return new Sheet(raw, planned, loop).read();
}

/**
 * The sheet that wires every channel of a build as the faces of its components declare it, or those of what it is wired to.
 * @param loop its name
 * @param cycle how often values are exchanged: with each hit of the slowest task of the controller, unless said
 */
export function proposedSheet(
  loop: string,
  planned: PlannedBuild,
  assembled: AssembledLoop,
  {
    name = `${loop} bench`,
    cycle = printDuration(slowestTask(planned)),
  }: { readonly name?: string | undefined; readonly cycle?: string | undefined } = {},
): RawBench {
  const { inputs, outputs } = pinsOf(planned, new Map());
  const signals = signalsOfInputs(planned, assembled);
  const channel = (pin: Pin, other: Range): RawChannel => {
    const signal = signals.get(nameKey(pin.name));
    const { low, high } = [pin, other].find((one) => one.high > one.low) ?? nothing;
    return { ...(signal === undefined ? {} : { signal }), ...(isMeasured(pin) && high > low ? { low, high, ...countsWithZero(low, high) } : {}) };
  };
  return {
    bench: name,
    loop,
    cycle,
    inputs: Object.fromEntries(inputs.map((pin) => [pin.name, channel(pin, rangeOfSource(signals.get(nameKey(pin.name)), assembled))])),
    outputs: Object.fromEntries(outputs.map((pin) => [pin.name, channel(pin, rangeOfOutput(pin.name, assembled))])),
  };
}

function slowestTask({ plan }: PlannedBuild): number {
  return Math.max(...plan.tasks.map((task) => task.periodNs));
}

/** Counts of which one is exactly 0, where 0 lies within the range: what is off has to be off at the other end, too. */
function countsWithZero(low: number, high: number): Pick<RawChannel, 'counts'> {
  if (low >= 0 || high <= 0) return {};
  for (let most = 65_535; most > 64_000; most -= 1)
    if (Number.isInteger((most * -low) / (high - low))) return most === 65_535 ? {} : { counts: [0, most] };
  return {};
}

interface Range {
  readonly low: number;
  readonly high: number;
}
const nothing: Range = { low: 0, high: 0 };

function rangeOf(slot: number | undefined, { slots }: Plan): Range {
  const { min = 0, max = 0 } = (slot === undefined ? undefined : slots[slot]) ?? {};
  return { low: min, high: max };
}

/** The range of a signal of the loop. */
function rangeOfSource(signal: string | undefined, { plan }: AssembledLoop): Range {
  const slot = plan.slots.findIndex(({ name }) => name === signal);
  return rangeOf(slot < 0 ? undefined : slot, plan);
}

/** The inputs of components that an output drives. */
function drivenBy(output: string, { plan }: Pick<AssembledLoop, 'plan'>): string[] {
  const face = plan.faces.find(({ component }) => nameKey(component) === nameKey(output.split('.')[0] ?? ''));
  const driven = face?.outputs.find(({ name }) => nameKey(`${face.component}.${name}`) === nameKey(output))?.slot;
  return plan.faces.flatMap(({ component, inputs }) =>
    inputs.flatMap(({ name, value }) => (value.k === 'slot' && value.slot === driven ? [`${component}.${name}`] : [])),
  );
}

/** The range an output is declared with, or that of an input it drives. */
function rangeOfOutput(output: string, { plan, catalogue }: AssembledLoop): Range {
  const { min = 0, max = 0 } = catalogue.findEntry(output, ['output']) ?? {};
  if (max > min) return { low: min, high: max };
  const ranges = drivenBy(output, { plan }).map((end) =>
    rangeOf(
      plan.slots.findIndex(({ name }) => nameKey(name) === nameKey(end)),
      plan,
    ),
  );
  return ranges.find(({ low, high }) => high > low) ?? nothing;
}

/** Signals of a loop that inputs of a build get there, by the key of the input. */
function signalsOfInputs({ inputs }: PlannedBuild, { plan }: AssembledLoop): ReadonlyMap<string, string> {
  return new Map(
    inputs.flatMap(({ name, component, port }) => {
      const face = plan.faces.find((one) => nameKey(one.component) === nameKey(component));
      const source = face?.inputs.find((one) => nameKey(one.name) === nameKey(port))?.value;
      const signal = source?.k === 'slot' ? plan.slots[source.slot]?.name : undefined;
      return signal === undefined ? [] : [[nameKey(name), signal] as const];
    }),
  );
}

type Direction = 'inputs' | 'outputs';

class Sheet {
  private readonly faults: WiringFault[] = [];
  private readonly signals: ReadonlyMap<string, string>;

  constructor(
    private readonly raw: RawBench,
    private readonly planned: PlannedBuild,
    private readonly loop: AssembledLoop,
  ) {
    this.signals = signalsOfInputs(planned, loop);
  }

  read(): { readonly wiring: Wiring; readonly faults: readonly WiringFault[] } {
    const pins = pinsOf(this.planned, this.wishes());
    for (const because of refusals(this.planned))
      this.tell(
        [this.isOwn ? 'program' : 'loop'],
        `The controller cannot run on a bench: ${because}.`,
        'Name the components that are the controller in project.yaml.',
      );
    const wiring = { inputs: this.wired('inputs', pins.inputs), outputs: this.wired('outputs', pins.outputs) };
    return { wiring, faults: this.faults };
  }

  private get isOwn(): boolean {
    return this.raw.program === 'own';
  }

  private wishes(): ReadonlyMap<string, ChannelWish> {
    const wishes = new Map<string, ChannelWish>();
    for (const direction of ['inputs', 'outputs'] as const)
      for (const [name, { low, high, bits, counts, filter }] of Object.entries(this.raw[direction])) {
        const filterMs = filter === undefined ? undefined : this.filter(filter, [direction, name, 'filter'], direction);
        wishes.set(nameKey(name), {
          ...(low === undefined ? {} : { low }),
          ...(high === undefined ? {} : { high }),
          ...(bits === undefined ? {} : { bits }),
          ...(counts === undefined ? {} : { counts }),
          ...(filterMs === undefined ? {} : { filterMs }),
        });
      }
    return wishes;
  }

  private filter(written: string | number, path: WiringFault['path'], direction: Direction): number | undefined {
    const ns = typeof written === 'string' ? readDuration(written) : 'no unit';
    if (direction === 'outputs') this.tell(path, 'An output has no filter.', 'Remove it.');
    else if (typeof ns === 'number' && ns > 0) return ns / 1e6;
    else this.tell(path, `"${written}" is not a duration.`, 'Write a number with its unit, such as 20 ms.');
    return undefined;
  }

  private wired(direction: Direction, pins: readonly Pin[]): WiredPin[] {
    const given = new Map(Object.entries(this.raw[direction]).map(([name, channel]) => [nameKey(name), { name, channel }] as const));
    this.checkNames(direction, pins);
    const first = direction === 'inputs' ? firstInput : firstOutput;
    const wired = pins.flatMap((pin, index): WiredPin[] => {
      const found = given.get(nameKey(pin.name));
      if (!found) {
        this.tell([direction], `${pin.name} has no channel.`, `Add it under ${direction}, or let the sheet be proposed anew.`);
        return [];
      }
      this.checkPin(pin, found.channel, [direction, found.name]);
      return [
        {
          ...pin,
          ...enumerated(this.planned.plan.slots[pin.slot] ?? {}),
          register: found.channel.register ?? first + index,
          signal: this.signals.get(nameKey(pin.name)) ?? drivenBy(pin.name, this.loop).join(', '),
        },
      ];
    });
    this.checkRegisters(direction, wired);
    return wired;
  }

  private checkNames(direction: Direction, pins: readonly Pin[]): void {
    const what = direction === 'inputs' ? 'input' : 'output';
    for (const name of Object.keys(this.raw[direction])) {
      if (pins.some((pin) => nameKey(pin.name) === nameKey(name))) continue;
      const near = nearestName(
        name,
        pins.map((pin) => pin.name),
      );
      this.tell([direction, name], `The controller has no ${what} "${name}".`, near ? `Did you mean "${near}"?` : `It has: ${listed(pins)}.`);
    }
  }

  private checkPin(pin: Pin, { signal, counts, register }: RawChannel, path: WiringFault['path']): void {
    for (const because of pinRefusal(pin)) this.tell(path, `The channel ${because}.`, 'Check the range of the channel.');
    const wired = this.signals.get(nameKey(pin.name));
    if (signal !== undefined && wired !== undefined && nameKey(signal) !== nameKey(wired))
      this.tell(
        [...path, 'signal'],
        `${pin.name} gets ${wired} in the loop ${this.loop.plan.loop}, not ${signal}.`,
        `Write ${wired}, or wire the loop so.`,
      );
    if (register !== undefined && !this.isOwn)
      this.tell(
        [...path, 'register'],
        'A controller that takes the build has its registers in the order of the build.',
        'Remove register, or write program: own.',
      );
    if (!counts) return;
    const last = 2 ** pin.bits - 1;
    if (counts[0] === counts[1] || Math.max(...counts) > last)
      this.tell([...path, 'counts'], `Counts of ${pin.name} must be two different ones of 0 to ${last}.`, 'Give those at low and at high.');
  }

  private checkRegisters(direction: Direction, wired: readonly WiredPin[]): void {
    const byRegister = new Map<number, string>();
    for (const { name, register } of wired) {
      const before = byRegister.get(register);
      if (before !== undefined)
        this.tell([direction, this.written(direction, name)], `${before} and ${name} have the same register, ${register}.`, 'Give each its own.');
      byRegister.set(register, name);
    }
  }

  private written(direction: Direction, name: string): string {
    return Object.keys(this.raw[direction]).find((one) => nameKey(one) === nameKey(name)) ?? name;
  }

  private tell(path: WiringFault['path'], message: string, fix: string): void {
    this.faults.push({ path, message, fix });
  }
}

function listed(pins: readonly Pin[]): string {
  const names = pins.map((pin) => pin.name);
  return names.length > 12 ? `${names.slice(0, 12).join(', ')}, …` : names.join(', ');
}
