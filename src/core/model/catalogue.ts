import { nameKey } from '../language';
import type { Node, SlotNumber, ValueType } from '../plan';
import type { Tuning } from './raw';
import type { Found } from './typing';

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
}

/** A name for a truth that is no signal of its own: a chart's state being active. */
interface NamedState {
  readonly name: string;
  readonly node: Node;
  readonly mark: number;
}

/** A name, what it means, what tells two meanings apart, and the mark of a state. */
type Noted = [name: string, found: Found, identity: string, mark?: number];

/** The searchable list of everything in a loop. Any unique end of a name will do: `level` for `chamber.level`. */
export class Catalogue {
  readonly entries: CatalogueEntry[] = [];
  readonly states: NamedState[] = [];
  readonly messages: { readonly name: string; readonly mark: number }[] = [];
  /** Instances whose component is missing or could not be used, with the names known of it (none known: any name may be right). */
  readonly unreadable = new Map<string, ReadonlySet<string> | undefined>();
  private readonly noted: Noted[] = [];
  private readonly ends = new Map<string, { found: Found; name: string; identity: string; mark?: number }[]>();

  add(entry: CatalogueEntry): void {
    this.entries.push(entry);
    this.alias(entry.name, entry);
  }

  /** A second name for a signal, such as the input it is wired to. */
  alias(name: string, entry: Pick<CatalogueEntry, 'slot' | 'type' | 'unit'>): void {
    this.index(name, { node: { k: 'slot', type: entry.type, slot: entry.slot }, unit: entry.unit }, `slot ${entry.slot}`);
  }

  addState(name: string, node: Node, mark: number): void {
    this.states.push({ name, node, mark });
    this.index(name, { node }, `mark ${mark}`, mark);
  }

  /** A message that can be sent; it is noted in the trace, but has no value of its own. */
  addMessage(name: string, mark: number): void {
    this.messages.push({ name, mark });
  }

  /** Names are only noted at first: most are never asked for, and a network has thousands. */
  private index(...name: Noted): void {
    this.noted.push(name);
  }

  private indexNoted(): void {
    for (const [name, found, identity, mark] of this.noted.splice(0)) this.indexOne(name, found, identity, mark);
  }

  private indexOne(name: string, found: Found, identity: string, mark: number | undefined): void {
    const parts = nameKey(name).split('.');
    for (let from = 0; from < parts.length; from += 1) {
      const end = parts.slice(from).join('.');
      const list = this.ends.get(end) ?? [];
      if (!list.some((other) => other.identity === identity)) list.push({ found, name, identity, ...(mark === undefined ? {} : { mark }) });
      this.ends.set(end, list);
    }
  }

  private matches(path: readonly string[]): { found: Found; name: string; mark?: number }[] {
    this.indexNoted();
    const key = nameKey(path.join('.'));
    const list = this.ends.get(key) ?? [];
    const exact = list.filter((one) => nameKey(one.name) === key);
    return exact.length === 1 ? exact : list;
  }

  /** What a name means; a sentence when it could mean several things. */
  find(path: readonly string[]): Found | string | undefined {
    const matches = this.matches(path);
    if (matches.length > 1) return `"${path.join('.')}" could be ${matches.map((match) => match.name).join(' or ')}.`;
    return matches[0]?.found;
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

  names(): string[] {
    this.indexNoted();
    return [...this.entries.map((entry) => entry.name), ...this.states.map((state) => state.name), ...this.ends.keys()];
  }
}
