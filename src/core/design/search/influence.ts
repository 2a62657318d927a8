import { nameKey } from '@/core/language';
import type { AssembledLoop, WireEnd } from '@/core/loop';
import type { Stream } from '@/core/numeric';
import { type Plan, type SlotNumber, slotsRead, type Work } from '@/core/plan';
import type { Movable } from './moves';

/** What is one step further away is moved so much more seldom. */
const perStep = 1 / 3;

/** How far things are from a quantity, in steps of the flow of data: what is near is moved more often. */
export class Influence {
  private readonly flow: Flow;
  private readonly steps = new Map<string, ReadonlyMap<SlotNumber, number>>();

  constructor(
    private readonly loop: AssembledLoop,
    private readonly movables: readonly Movable[],
  ) {
    this.flow = new Flow(loop.plan);
  }

  /**
   * Something that may be moved, or something else, drawn by its nearness to some signals; nothing where nothing has an influence on them.
   * @param others slots of what else is in the draw
   */
  drawn<T>(
    signals: readonly SlotNumber[],
    stream: Stream,
    others: readonly { readonly other: T; readonly slot: SlotNumber }[] = [],
  ): { readonly movable: Movable } | { readonly other: T } | undefined {
    const steps = this.stepsTo(signals);
    const all = [
      ...this.movables.map((movable) => ({ movable, far: this.farOf(movable, steps) })),
      ...others.map(({ other, slot }) => ({ other, far: steps.get(slot) })),
    ];
    const shareOf = ({ far }: (typeof all)[number]): number => (far === undefined ? 0 : perStep ** far);
    let left = stream.next() * all.reduce((sum, one) => sum + shareOf(one), 0);
    return all.find((one) => {
      left -= shareOf(one);
      return left < 0;
    });
  }

  private farOf({ name, kind }: Movable, steps: ReadonlyMap<SlotNumber, number>): number | undefined {
    const { plan, catalogue, wireEnds } = this.loop;
    const named = <T extends { readonly name: string }>(list: readonly T[]): T | undefined => list.find((one) => nameKey(one.name) === nameKey(name));
    if (kind === 'wire') {
      // A fault on a wire reaches what reads its end, and not what the signal at its source is made of.
      const end = named(wireEnds);
      const readers = end ? this.flow.readersOf(end) : [];
      const far = Math.min(...readers.map((slot) => steps.get(slot) ?? Number.POSITIVE_INFINITY));
      return Number.isFinite(far) ? far + 1 : undefined;
    }
    const slot =
      kind === 'message'
        ? named(plan.messages)?.queue.waiting
        : catalogue.findEntry(name, kind === 'parameter' ? ['parameter', 'state'] : ['input'])?.slot;
    return slot === undefined ? undefined : steps.get(slot);
  }

  /** Steps from each slot that has an influence on some. */
  private stepsTo(signals: readonly SlotNumber[]): ReadonlyMap<SlotNumber, number> {
    const key = signals.join();
    const known = this.steps.get(key) ?? this.walked(signals);
    this.steps.set(key, known);
    return known;
  }

  private walked(signals: readonly SlotNumber[]): Map<SlotNumber, number> {
    const steps = new Map<SlotNumber, number>(signals.map((slot) => [slot, 0]));
    let edge = [...signals];
    for (let far = 1; edge.length > 0; far += 1) {
      const next = new Set(edge.flatMap((slot) => [...this.flow.sourcesOf(slot)]).filter((slot) => !steps.has(slot)));
      for (const slot of next) steps.set(slot, far);
      edge = [...next];
    }
    return steps;
  }
}

/** From which slots the value of each is made, or is it decided whether it is set. */
class Flow {
  private readonly sources = new Map<SlotNumber, Set<SlotNumber>>();

  constructor(private readonly plan: Plan) {
    for (const { slot, derivative, start } of plan.states) this.add(slot, slotsRead(start, slotsRead(derivative)));
    for (const { slot, value } of plan.assignments) this.add(slot, slotsRead(value));
    for (const { slot, of, by } of plan.delays ?? []) this.add(slot, slotsRead(by, slotsRead(of)));
    for (const { condition, sets } of plan.crossings) for (const { slot, value } of sets) this.add(slot, slotsRead(value, slotsRead(condition)));
    for (const { work } of plan.tasks) this.addWork(work, []);
  }

  sourcesOf(slot: SlotNumber): Iterable<SlotNumber> {
    return this.sources.get(slot) ?? [];
  }

  /** Slots of the component at the end of a wire that are made of its signal. */
  readersOf({ name, slot }: WireEnd): SlotNumber[] {
    const component = nameKey(name.slice(0, name.indexOf('.') + 1));
    return [...this.sources].flatMap(([target, from]) =>
      from.has(slot) && nameKey(this.plan.slots[target]?.name ?? '').startsWith(component) ? [target] : [],
    );
  }

  private add(slot: SlotNumber, from: Iterable<SlotNumber>): void {
    const known = this.sources.get(slot) ?? new Set<SlotNumber>();
    for (const one of from) known.add(one);
    this.sources.set(slot, known);
  }

  /** @param asked slots that decide whether it is done */
  private addWork(work: readonly Work[], asked: readonly SlotNumber[]): void {
    for (const one of work) {
      if (one.k === 'set') this.add(one.slot, [...slotsRead(one.value), ...asked]);
      if (one.k === 'set element')
        for (let index = 0; index < one.count; index += 1) this.add(one.base + index, [...slotsRead(one.value), ...slotsRead(one.index), ...asked]);
      if (one.k === 'if') {
        const inside = [...new Set([...asked, ...slotsRead(one.condition)])];
        this.addWork(one.yes, inside);
        this.addWork(one.no, inside);
      }
      if (one.k === 'loop' || one.k === 'block' || one.k === 'settle') this.addWork(one.body, asked);
    }
  }
}
