import type { Place } from '@/core/fault';
import type { Span } from '@/core/language';
import { seedOfStream } from '@/core/numeric';
import type { Delay, Plan, PlanUnit, Site, SiteNumber, Slot, SlotNumber, WrittenDecision } from '@/core/plan';
import type { Definitions } from './definitions';
import type { Formula } from './formula';
import type { UserFunctions } from './typing';

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends readonly (infer U)[] ? U[] : T[K] };

/** Values of a plan; a large project has some ten thousand. */
const mostSlots = 200_000;

/** Instances of function blocks and calls of them, each with its body in place. */
const mostBlocks = 20_000;

/** The plan while it grows. */
export class PlanBuilder {
  readonly slots: Slot[] = [];
  /** Those for the plan's own use. */
  readonly internal: SlotNumber[] = [];
  private readonly toldAt: { readonly place: Place; readonly text: string }[] = [];
  private found: readonly Site[] | undefined;
  readonly parts: Mutable<
    Pick<
      Plan,
      | 'inputs'
      | 'parameters'
      | 'states'
      | 'assignments'
      | 'tasks'
      | 'functions'
      | 'regions'
      | 'transitions'
      | 'limited'
      | 'messages'
      | 'crossings'
      | 'draws'
      | 'played'
      | 'logged'
    >
  > = {
    inputs: [],
    parameters: [],
    states: [],
    assignments: [],
    tasks: [],
    functions: [],
    regions: [],
    transitions: [],
    limited: [],
    messages: [],
    crossings: [],
    draws: [],
    played: [],
    logged: [],
  };
  /** Functions of the project, once the loop has told which there are. */
  functions: UserFunctions = { find: () => undefined, names: () => [] };
  /** Decisions that somebody has written, in the work they stand in. */
  readonly decisions: WrittenDecision[] = [];
  /** Co-simulation units among the components. */
  readonly units: PlanUnit[] = [];
  readonly delays: Delay[] = [];
  private marks = 0;
  private labels = 0;
  private blocks = 0;

  /** @param definitions names that every formula may use */
  constructor(readonly definitions: Definitions = new Map()) {}

  /** A value that goes out of a network under a name of its face: it is known by that, in its unit, and has to keep to the limits of both. */
  adopt(number: SlotNumber, { name, unit, min, max }: Pick<Slot, 'name' | 'unit' | 'min' | 'max'>): void {
    const own = this.slots[number];
    if (!own) return;
    const [low, high] = [Math.max(own.min ?? -Infinity, min ?? -Infinity), Math.min(own.max ?? Infinity, max ?? Infinity)];
    const limits = { ...(Number.isFinite(low) ? { min: low } : {}), ...(Number.isFinite(high) ? { max: high } : {}) };
    this.slots[number] = { ...own, name, unit: unit || own.unit, ...limits };
  }

  slot(slot: Slot): SlotNumber {
    return this.slots.push(slot) - 1;
  }

  /** The plan has as many values as a plan may have: structures and function blocks that contain each other twice over grow by themselves. */
  get isFull(): boolean {
    return this.slots.length >= mostSlots;
  }

  /** Counts an instance of a function block, or its body where it is called. @returns false when the plan has grown too large for more */
  takeBlock(): boolean {
    this.blocks += 1;
    return this.blocks <= mostBlocks && !this.isFull;
  }

  /** A slot for the plan's own use, never shown. */
  hidden(name: string, start = 0): SlotNumber {
    const slot = this.slot({ name, type: 'LREAL', unit: '', start });
    this.internal.push(slot);
    return slot;
  }

  /** A stream of random numbers of its own; the run's seed sets it. */
  stream(): SlotNumber {
    const slot = this.hidden('stream of random numbers', seedOfStream(0, this.parts.draws.length));
    this.parts.draws.push(slot);
    return slot;
  }

  site(place: Place, text: string): SiteNumber {
    return this.toldAt.push({ place, text }) - 1;
  }

  textOf(site: SiteNumber): string {
    return this.toldAt[site]?.text ?? '';
  }

  /** All sites, looked up in their documents: to be asked for only when one is told, or the plan is sent away. */
  sites(): readonly Site[] {
    this.found ??= this.toldAt.map(({ place: { file, line, column }, text }) => ({ file, line, column, text }));
    return this.found;
  }

  siteOf(formula: Formula, span: Span): SiteNumber {
    return this.site(formula.place(span), formula.text.slice(span.from, span.until));
  }

  nextLabel(): number {
    this.labels += 1;
    return this.labels;
  }

  nextMark(): number {
    this.marks += 1;
    return this.marks;
  }
}
