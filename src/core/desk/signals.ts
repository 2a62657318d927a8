import type { LoopDocument } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { AssembledLoop, CatalogueEntry } from '@/core/loop';

/** All about one signal of a loop, as a desk shows it. */
export interface DeskSignal extends CatalogueEntry {
  /** Whether people may set it, or only read it. */
  readonly access: 'set' | 'read';
  /** Index into the plan's free inputs, of one that is set. */
  readonly input?: number;
  /** Names of its values 0, 1, …: of an enumeration or of a region, where 0 is no state. */
  readonly labels?: readonly string[];
  /** The component that makes it; people make what is set. */
  readonly from: string;
  /** Where it goes, by the wires of the loop. */
  readonly readers: readonly string[];
  readonly start: number;
}

/** The signals of a loop: what may be set first, then what may be read. */
export function deskSignals({ plan, catalogue }: AssembledLoop, loop: LoopDocument): DeskSignal[] {
  const readers = readersOf(loop);
  const regions = new Map(plan.regions.map((region) => [region.slot, ['', ...region.states.map((state) => state.name)]]));
  const signals = catalogue.entries.map((entry): DeskSignal => {
    const input = entry.role === 'input' ? plan.inputs.findIndex((one) => one.slot === entry.slot) : -1;
    const tuned = entry.role === 'parameter' && (entry.tuning ?? 'live') === 'live';
    const labels = regions.get(entry.slot) ?? entry.enumeration?.values;
    return {
      ...entry,
      about: entry.about || (loop.raw.inputs?.[entry.name] ? aboutPort(readers.get(nameKey(entry.name))?.[0], catalogue.entries) : ''),
      access: input >= 0 || tuned ? 'set' : 'read',
      ...(input >= 0 ? { input } : {}),
      ...(labels ? { labels } : {}),
      from: entry.role === 'input' ? 'people' : (entry.name.split('.')[0] ?? ''),
      readers: readers.get(nameKey(entry.name)) ?? [],
      start: plan.slots[entry.slot]?.start ?? 0,
    };
  });
  const rank = (one: DeskSignal): number => (one.input !== undefined ? 0 : one.access === 'read' ? 1 : 2);
  return signals.sort((a, b) => rank(a) - rank(b));
}

/** A free input has no words of its own; where it leads there may be some. */
function aboutPort(reader: string | undefined, entries: readonly CatalogueEntry[]): string {
  return entries.find((entry) => entry.name === reader)?.about ?? '';
}

/** By `nameKey` of a signal, the inputs it is wired to. */
function readersOf({ raw }: LoopDocument): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, string[]>();
  const note = (from: string, to: string | readonly string[]): void => {
    const list = found.get(nameKey(from)) ?? [];
    found.set(nameKey(from), [...list, ...(typeof to === 'string' ? [to] : to)]);
  };
  for (const [name, { to }] of Object.entries(raw.inputs ?? {})) note(name, to);
  for (const { from, to } of raw.wires ?? []) note(from, to);
  return found;
}
