import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { Stream } from '@/core/numeric';
import { type Plan, type SlotNumber, slotsRead, type Work } from '@/core/plan';
import type { Movable } from './moves';

/** How far each thing that may be moved is from a quantity, in steps of the flow of data: what is near is moved more often. */
export class Influence {
  private readonly sources: ReadonlyMap<SlotNumber, ReadonlySet<SlotNumber>>;
  private readonly slots: readonly (readonly [Movable, SlotNumber])[];
  private readonly shares = new Map<string, readonly (readonly [Movable, number])[]>();

  constructor({ plan, catalogue, wireEnds }: AssembledLoop, movables: readonly Movable[]) {
    this.sources = sourcesIn(plan);
    this.slots = movables.flatMap((one): (readonly [Movable, SlotNumber])[] => {
      const slot =
        one.kind === 'wire'
          ? wireEnds.find(({ name }) => nameKey(name) === nameKey(one.name))?.slot
          : one.kind === 'message'
            ? plan.messages.find(({ name }) => nameKey(name) === nameKey(one.name))?.queue.waiting
            : catalogue.findEntry(one.name, one.kind === 'parameter' ? ['parameter', 'state'] : ['input'])?.slot;
      return slot === undefined ? [] : [[one, slot]];
    });
  }

  /** Something that may be moved, drawn by its nearness to some signals; nothing where nothing has an influence on them. */
  drawn(signals: readonly SlotNumber[], stream: Stream): Movable | undefined {
    const key = signals.join();
    const shares = this.shares.get(key) ?? this.sharesOf(signals);
    this.shares.set(key, shares);
    let left = stream.next() * shares.reduce((sum, [, share]) => sum + share, 0);
    return shares.find(([, share]) => {
      left -= share;
      return left < 0;
    })?.[0];
  }

  private sharesOf(signals: readonly SlotNumber[]): (readonly [Movable, number])[] {
    const steps = this.stepsTo(signals);
    return this.slots.flatMap(([one, slot]) => {
      const far = steps.get(slot);
      return far === undefined ? [] : [[one, 1 / (1 + far) ** 2] as const];
    });
  }

  /** Steps from each slot that has an influence on some. */
  private stepsTo(signals: readonly SlotNumber[]): Map<SlotNumber, number> {
    const steps = new Map<SlotNumber, number>(signals.map((slot) => [slot, 0]));
    let edge = [...signals];
    for (let far = 1; edge.length > 0; far += 1) {
      const next = new Set(edge.flatMap((slot) => [...(this.sources.get(slot) ?? [])]).filter((slot) => !steps.has(slot)));
      for (const slot of next) steps.set(slot, far);
      edge = [...next];
    }
    return steps;
  }
}

/** For each slot, those that its value is made of, or that decide whether it is set. */
function sourcesIn(plan: Plan): Map<SlotNumber, Set<SlotNumber>> {
  const sources = new Map<SlotNumber, Set<SlotNumber>>();
  const add = (slot: SlotNumber, from: Iterable<SlotNumber>): void => {
    const known = sources.get(slot) ?? new Set<SlotNumber>();
    for (const one of from) known.add(one);
    sources.set(slot, known);
  };
  for (const { slot, derivative, start } of plan.states) add(slot, slotsRead(start, slotsRead(derivative)));
  for (const { slot, value } of plan.assignments) add(slot, slotsRead(value));
  for (const { condition, sets } of plan.crossings) for (const { slot, value } of sets) add(slot, slotsRead(value, slotsRead(condition)));
  for (const { work } of plan.tasks) addWork(work, [], add);
  return sources;
}

function addWork(work: readonly Work[], asked: readonly SlotNumber[], add: (slot: SlotNumber, from: Iterable<SlotNumber>) => void): void {
  for (const one of work) {
    if (one.k === 'set') add(one.slot, [...slotsRead(one.value), ...asked]);
    if (one.k === 'set element')
      for (let index = 0; index < one.count; index += 1) add(one.base + index, [...slotsRead(one.value), ...slotsRead(one.index), ...asked]);
    if (one.k === 'if') {
      const inside = [...new Set([...asked, ...slotsRead(one.condition)])];
      addWork(one.yes, inside, add);
      addWork(one.no, inside, add);
    }
    if (one.k === 'loop' || one.k === 'block' || one.k === 'settle') addWork(one.body, asked, add);
  }
}
