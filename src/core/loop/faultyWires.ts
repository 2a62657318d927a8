import { type Declared, enumerated, type PlanBuilder } from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  type ArrayPlace,
  arithmetic,
  assign,
  comparison,
  constant,
  hitNumber,
  holds,
  type Node,
  type Plan,
  type SlotNumber,
  slotValue,
  type ValueType,
  type Work,
  when,
  widened,
} from '@/core/plan';

/** Where a wire ends: an input of a component, with the signal that comes in there. */
export interface WireEnd extends Declared {
  /** Slot of the signal at its source. */
  readonly slot: SlotNumber;
}

/** A wire end that may be faulty in a run, and what has to be ready for it. */
export interface FaultyEnd {
  readonly end: WireEnd;
  /** When the received value is worked out; continuous, at every instant, where nothing is said. */
  readonly times?: { readonly periodNs: number; readonly offsetNs: number } | undefined;
  readonly hasNoise: boolean;
  /** Longest delay, in periods. */
  readonly mostPeriods: number;
}

/** The ways in which a wire may be faulty; 0 is none. */
export const faultKinds = { none: 0, stuck: 1, offset: 2, noise: 3, delayed: 4 } as const;

/** Slots by which a run makes a wire faulty. */
export interface FaultSlots {
  /** One of `faultKinds`. */
  readonly kind: SlotNumber;
  /** What it is stuck at, how much is added, or the standard deviation of the noise. */
  readonly amount: SlotNumber;
  /** By how many periods it is late. */
  readonly periods: SlotNumber;
  /** What comes in at the end of the wire, faulty or not. */
  readonly received: SlotNumber;
}

/** Slots of one wire end; they come after all others of the plan, so that slots keep the numbers they have without faults. */
interface Laid extends FaultSlots {
  readonly one: FaultyEnd;
  readonly head: SlotNumber;
  readonly first: SlotNumber;
  readonly ring: ArrayPlace;
}

/**
 * Wires that may be faulty: at each such end the value that is received is worked out from that of the source. It is late by whole periods of the component that reads it (or that writes it, where a
 * continuous one reads); noise is drawn at each of these.
 */
export class FaultyWires {
  private readonly laid = new Map<string, Laid>();
  private readonly sources = new Map<SlotNumber, SlotNumber>();

  /** @param from the number of slots of the plan without faults */
  constructor(ends: readonly FaultyEnd[], from: SlotNumber) {
    let next = from;
    for (const one of ends) {
      const ring: ArrayPlace = { base: next + 6, first: 0, count: one.mostPeriods };
      this.laid.set(nameKey(one.end.name), {
        one,
        received: next,
        kind: next + 1,
        amount: next + 2,
        periods: next + 3,
        head: next + 4,
        first: next + 5,
        ring,
      });
      this.sources.set(next, one.end.slot);
      next = ring.base + ring.count;
    }
  }

  of(name: string): FaultSlots | undefined {
    return this.laid.get(nameKey(name));
  }

  /** The signal whose value is received in a slot, where the slot is one of these. */
  sourceOf(slot: SlotNumber): SlotNumber | undefined {
    return this.sources.get(slot);
  }

  /** Adds what works the received values out, once all else of the plan has its slots. */
  build(builder: PlanBuilder): void {
    for (const laid of this.laid.values()) this.makeSlots(laid, builder);
    for (const laid of this.laid.values()) {
      const { one, received } = laid;
      if (one.times) {
        const work = sampledWork(laid, one.hasNoise ? builder.stream() : undefined);
        builder.parts.tasks.push({ component: `wire to ${one.end.name}`, ...one.times, work, logged: [received] });
      } else {
        builder.parts.assignments.push({ slot: received, value: receivedValue(laid) });
        builder.parts.logged.push(received);
      }
    }
  }

  private makeSlots({ one: { end }, received, kind, amount, periods, ring }: Laid, builder: PlanBuilder): void {
    const { name, type, unit } = end;
    const start = builder.slots[end.slot]?.start ?? 0;
    if (builder.slots.length !== received) throw new Error(`the received value of ${name} is not where it was laid`);
    builder.slot({ name: `${name} as received`, type, unit, start, ...enumerated(end) });
    builder.slot({ name: `${name} fault`, type: 'DINT', unit: '', start: faultKinds.none });
    builder.slot({ name: `${name} amount`, type, unit, start: 0 });
    builder.slot({ name: `${name} periods`, type: 'DINT', unit: '', start: 0 });
    builder.slot({ name: `${name} head`, type: 'DINT', unit: '', start: 0 });
    for (let at = 0; at <= ring.count; at += 1) builder.slot({ name: `${name} before`, type, unit, start });
    builder.parts.parameters.push(kind, amount, periods);
  }
}

/** The value of the moment, faulty as the kind says. @param further what else there may be */
function receivedValue({ one: { end }, kind, amount }: Laid, further: readonly (readonly [number, Node])[] = []): Node {
  const { type, slot } = end;
  const [source, by] = [slotValue(type, slot), slotValue(type, amount)];
  const kinds: readonly (readonly [number, Node])[] = [
    [faultKinds.stuck, by],
    ...(isReal(type) ? [[faultKinds.offset, arithmetic(type, '+', source, by)] as const] : []),
    ...further,
  ];
  return kinds.reduceRight<Node>((no, [code, yes]) => ({ k: 'select', type, condition: holds(kind, code, 'DINT'), yes, no }), source);
}

/** At each hit: what is received, and then the value of the moment is kept for when it is late. Before the first one, the signal was what it was then. */
function sampledWork(laid: Laid, stream: SlotNumber | undefined): Work[] {
  const { one, amount, received, head, first, ring, periods } = laid;
  const { type, slot } = one.end;
  const source = slotValue(type, slot);
  const further: [number, Node][] = [];
  if (stream !== undefined)
    further.push([faultKinds.noise, arithmetic(type, '+', source, arithmetic(type, '*', slotValue(type, amount), drawn(type, stream)))]);
  if (ring.count === 0) return [assign(received, receivedValue(laid, further))];
  const dint = (operator: '+' | '-' | 'MOD', a: Node, b: Node): Node => arithmetic('DINT', operator, a, b);
  const [at, late, room] = [slotValue('DINT', head), slotValue('DINT', periods), constant('DINT', ring.count)];
  const then: Node = { k: 'element', type, ...ring, index: dint('MOD', dint('-', dint('+', at, room), late), room), site: 0 };
  const isEarly = comparison('<', hitNumber, widened('LREAL', late));
  further.push([faultKinds.delayed, { k: 'select', type, condition: isEarly, yes: slotValue(type, first), no: then }]);
  return [
    when(comparison('=', hitNumber, constant('LREAL', 0)), [assign(first, source)]),
    assign(received, receivedValue(laid, further)),
    { k: 'set element', ...ring, index: at, value: source, site: 0 },
    assign(head, dint('MOD', dint('+', at, constant('DINT', 1)), room)),
  ];
}

function drawn(type: ValueType, stream: SlotNumber): Node {
  const number: Node = { k: 'draw', type: 'LREAL', how: 'normal', state: stream };
  return type === 'LREAL' ? number : { k: 'convert', type, how: 'round', a: number, site: 0 };
}

export function isReal(type: ValueType): boolean {
  return type === 'REAL' || type === 'LREAL';
}

/** When a wire end is sampled, or a word on why no single time can be told. */
export function timesOfEnd({ name, slot }: WireEnd, { tasks, assignments, slots }: Plan): FaultyEnd['times'] | 'mixed' {
  const head = nameKey(name.slice(0, name.lastIndexOf('.')));
  const isOwn = (other: string): boolean => nameKey(other) === head || nameKey(other).startsWith(`${head}.`);
  const readers = tasks.filter((task) => isOwn(task.component));
  const isContinuous = assignments.some((one) => isOwn(slots[one.slot]?.name ?? ''));
  const [fastest] = [...readers].sort((a, b) => a.periodNs - b.periodNs);
  if (!fastest) {
    const writer = tasks.find((task) => task.logged.includes(slot));
    return writer && { periodNs: writer.periodNs, offsetNs: writer.offsetNs };
  }
  const { periodNs, offsetNs } = fastest;
  const fits = readers.every((one) => one.periodNs % periodNs === 0 && (one.offsetNs - offsetNs) % periodNs === 0 && one.offsetNs >= offsetNs);
  return fits && !isContinuous ? { periodNs, offsetNs } : 'mixed';
}
