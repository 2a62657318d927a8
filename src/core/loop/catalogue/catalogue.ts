import { type Definitions, enumerated, type Found, numberOfValue } from '@/core/formula';
import { nameKey } from '@/core/language';
import { type Enumeration, type Node, type SlotNumber, slotValue, type ValueType } from '@/core/plan';
import type { Tuning } from '@/core/shapes';

export type Role = 'input' | 'output' | 'state' | 'variable' | 'parameter' | 'region';

/** One thing in a loop that can be named from outside. */
export interface CatalogueEntry {
  readonly name: string;
  readonly slot: SlotNumber;
  readonly type: ValueType;
  readonly unit: string;
  readonly role: Role;
  readonly about: string;
  readonly min?: number;
  readonly max?: number;
  /** Of a parameter: when it may be changed. */
  readonly tuning?: Tuning;
  readonly enumeration?: Enumeration;
}

/** A name for a truth that is no signal of its own: a chart's state being active. */
interface NamedState {
  readonly name: string;
  readonly node: Node;
  readonly mark: number;
}

/** A name, what it means, what tells two meanings apart, and the mark of a state. */
interface Noted {
  readonly name: string;
  readonly key: string;
  readonly found: Found;
  /** Two names of one thing are no ambiguity. */
  readonly identity: string;
  readonly mark?: number;
}

/** The searchable list of everything in a loop. Any unique end of a name will do: `level` for `chamber.level`. */
export class Catalogue {
  readonly entries: CatalogueEntry[] = [];
  readonly states: NamedState[] = [];
  readonly messages: { readonly name: string; readonly mark: number }[] = [];
  /** Instances whose component is missing or could not be used, with the names known of it (none known: any name may be right). */
  readonly unreadable = new Map<string, ReadonlySet<string> | undefined>();
  /** By the last part of the name. */
  private readonly noted = new Map<string, Noted[]>();
  private readonly received = new Map<string, Found>();
  private known: readonly string[] | undefined;

  /** @param definitions of the project, known by their own names where no signal has them */
  constructor(private readonly definitions: Definitions = new Map()) {}

  add(entry: CatalogueEntry): void {
    this.entries.push(entry);
    this.alias(entry.name, entry);
  }

  /** A second name for a signal, such as the input it is wired to. */
  alias(name: string, entry: Pick<CatalogueEntry, 'slot' | 'type' | 'unit' | 'enumeration'>): void {
    this.index(name, { node: slotValue(entry.type, entry.slot), unit: entry.unit, ...enumerated(entry) }, `slot ${entry.slot}`);
  }

  /** What comes in at the end of a wire that may be faulty: meant by its full name alone, for a shorter one may mean the signal at its source. */
  receive(name: string, entry: Pick<CatalogueEntry, 'slot' | 'type' | 'unit' | 'enumeration'>): void {
    this.received.set(nameKey(name), { node: slotValue(entry.type, entry.slot), unit: entry.unit, ...enumerated(entry) });
  }

  isReceived(path: readonly string[]): boolean {
    return this.received.has(nameKey(path.join('.')));
  }

  addState(name: string, node: Node, mark: number): void {
    this.states.push({ name, node, mark });
    this.index(name, { node }, `mark ${mark}`, mark);
  }

  /** A message that can be sent; it is noted in the trace, but has no value of its own. */
  addMessage(name: string, mark: number): void {
    this.messages.push({ name, mark });
  }

  private index(name: string, found: Found, identity: string, mark?: number): void {
    this.known = undefined;
    const key = nameKey(name);
    const list = this.noted.get(lastPart(key)) ?? [];
    list.push({ name, key, found, identity, ...(mark === undefined ? {} : { mark }) });
    this.noted.set(lastPart(key), list);
  }

  private matches(path: readonly string[]): Noted[] {
    const key = nameKey(path.join('.'));
    const list = (this.noted.get(lastPart(key)) ?? []).filter((one) => one.key === key || one.key.endsWith(`.${key}`));
    // A state with states inside has the name of the region of these: the state is meant.
    const isState = (name: string): boolean => list.some((one) => one.key === name && one.mark !== undefined);
    const meant = list.filter((one) => one.mark !== undefined || !isState(one.key));
    const each = meant.filter((one, index) => meant.findIndex((other) => other.identity === one.identity) === index);
    const exact = each.filter((one) => one.key === key);
    return exact.length === 1 ? exact : each;
  }

  /** Full names of what a name may mean. */
  fullNames(path: readonly string[]): string[] {
    return this.matches(path).map((match) => match.name);
  }

  /** What a name means; a sentence when it could mean several things. */
  find(path: readonly string[]): Found | string | undefined {
    const received = this.received.get(nameKey(path.join('.')));
    if (received) return received;
    const matches = this.matches(path);
    if (matches.length > 1) return `"${path.join('.')}" could be ${matches.map((match) => match.name).join(' or ')}.`;
    return matches[0]?.found ?? this.definitions.get(nameKey(path.join('.')));
  }

  /** Some signal is of an enumeration that has a value of this name. */
  isValue([name = '', ...rest]: readonly string[]): boolean {
    return rest.length === 0 && this.entries.some(({ enumeration }) => enumeration !== undefined && numberOfValue(name, enumeration) !== undefined);
  }

  /** The mark of a chart's state of that name. */
  findState(path: readonly string[]): number | undefined {
    const states = this.matches(path).filter((match) => match.mark !== undefined);
    return states.length === 1 ? states[0]?.mark : undefined;
  }

  findEntry(name: string, roles: readonly Role[]): CatalogueEntry | undefined {
    const key = nameKey(name);
    const candidates = this.entries.filter((entry) => roles.includes(entry.role));
    const exact = candidates.find((entry) => nameKey(entry.name) === key);
    if (exact) return exact;
    const ending = candidates.filter((entry) => nameKey(entry.name).endsWith(`.${key}`));
    return ending.length === 1 ? ending[0] : undefined;
  }

  excuses(path: readonly string[]): boolean {
    const [instance = '', name] = path.map(nameKey);
    if (!this.unreadable.has(instance)) return false;
    const known = this.unreadable.get(instance);
    return known === undefined || name === undefined || known.has(name);
  }

  /** Every full name and every end of one; made once, however many unknown names are compared with them. */
  names(): readonly string[] {
    this.known ??= this.namesAndEnds();
    return this.known;
  }

  private namesAndEnds(): string[] {
    const ends = [...this.noted.values()].flat().flatMap(({ key }) => {
      const parts = key.split('.');
      return parts.map((_, from) => parts.slice(from).join('.'));
    });
    return [...new Set([...this.entries.map((entry) => entry.name), ...this.states.map((state) => state.name), ...ends, ...this.definitions.keys()])];
  }
}

function lastPart(key: string): string {
  return key.slice(key.lastIndexOf('.') + 1);
}
