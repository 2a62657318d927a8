import type { PlanBuilder } from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  type ArrayPlace,
  arithmetic,
  assign,
  comparison,
  constant,
  type Message,
  type Node,
  type Queue,
  type SiteNumber,
  type SlotNumber,
  slotValue,
  type ValueType,
  type Work,
  when,
} from '@/core/plan';

/** Messages that may wait at once; more end the run. */
const capacity = 32;

/** Makes room for messages that wait. */
export function makeQueue(builder: PlanBuilder, name: string): Queue {
  const row = (what: string, type: ValueType): ArrayPlace => {
    const slots = Array.from({ length: capacity }, (_, index) => builder.slot({ name: `${name} ${what} ${index}`, type, unit: '', start: 0 }));
    return { base: slots[0] as SlotNumber, first: 0, count: capacity };
  };
  return {
    codes: row('code', 'UINT'),
    values: row('value', 'LREAL'),
    head: builder.slot({ name: `${name} head`, type: 'UINT', unit: '', start: 0 }),
    waiting: builder.slot({ name: `${name} waiting`, type: 'UINT', unit: '', start: 0 }),
  };
}

/** Puts a message at the end of a queue. */
export function append(queue: Queue, code: Node, value: Node, site: SiteNumber): Work[] {
  const index = wrapped(plus(read(queue.head), read(queue.waiting), site), site);
  return [
    when(comparison('>=', read(queue.waiting), whole(capacity)), [{ k: 'fail', why: 'queue full', site }]),
    { k: 'set element', ...queue.codes, index, value: code, site },
    { k: 'set element', ...queue.values, index, value, site },
    assign(queue.waiting, plus(read(queue.waiting), whole(1), site)),
  ];
}

/** A message to the components that are wired to it: into the queue of each, and noted as sent. */
export function sendTo(receivers: readonly Message[], value: Node, site: SiteNumber): Work[] {
  return receivers.flatMap((one): Work[] => [
    ...(one.queue.codes.count > 0 ? append(one.queue, whole(one.code), value, site) : []),
    { k: 'mark', state: one.mark, entered: true },
  ]);
}

/** Takes the first message of a queue that is not empty. */
export function takeFirst(queue: Queue, code: SlotNumber, value: SlotNumber, site: SiteNumber): Work[] {
  const index = read(queue.head);
  return [
    assign(code, { k: 'element', type: 'UINT', ...queue.codes, index, site }),
    assign(value, { k: 'element', type: 'LREAL', ...queue.values, index, site }),
    assign(queue.head, wrapped(plus(index, whole(1), site), site)),
    assign(queue.waiting, arithmetic('UINT', '-', read(queue.waiting), whole(1), site)),
  ];
}

export function anyWaits(queue: Queue): Node {
  return comparison('>', read(queue.waiting), whole(0));
}

function read(slot: SlotNumber): Node {
  return slotValue('UINT', slot);
}

function whole(value: number): Node {
  return constant('UINT', value);
}

function plus(a: Node, b: Node, site: SiteNumber): Node {
  return arithmetic('UINT', '+', a, b, site);
}

function wrapped(a: Node, site: SiteNumber): Node {
  return arithmetic('UINT', 'MOD', a, whole(capacity), site);
}

/** The messages that one component takes: their codes, and the queue they wait in. */
export class Mailbox {
  readonly queue: Queue;
  private readonly codes = new Map<string, { readonly name: string; readonly code: number }>();

  constructor(builder: PlanBuilder, name: string) {
    this.queue = makeQueue(builder, `${name} messages`);
  }

  /** Code of a message, from 1; a name not met before gets the next one. */
  code(name: string): number {
    const key = nameKey(name);
    const known = this.codes.get(key) ?? { name, code: this.codes.size + 1 };
    this.codes.set(key, known);
    return known.code;
  }

  has(name: string): boolean {
    return this.codes.has(nameKey(name));
  }

  names(): string[] {
    return [...this.codes.values()].map((one) => one.name);
  }

  /** Codes of all messages a transition's `on` takes: the very name, or names that go on after a dot (SCXML 3.12.1). */
  matching(descriptor: string): number[] {
    const wanted = nameKey(descriptor.replace(/\.?\*$/, ''));
    return [...this.codes].filter(([key]) => wanted === '' || key === wanted || key.startsWith(`${wanted}.`)).map(([, { code }]) => code);
  }
}
