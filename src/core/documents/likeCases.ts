import type { Faults } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import type { RawCase, WrittenCase } from '@/core/shapes';
import type { Path, ReadDocument } from '@/core/yaml';

/** A case as it is written, before it has taken over what it is like. */
export interface WrittenCaseDocument {
  readonly document: ReadDocument;
  readonly raw: WrittenCase;
}

export interface CaseDocument {
  /** Places of what it has taken over lie in the documents where that is written. */
  readonly document: ReadDocument;
  readonly raw: RawCase;
  /** Files of the cases it is like, the nearest first. */
  readonly takenOver: readonly string[];
  /** The case it is like, by its name. */
  readonly like?: string;
}

/** Values by names; a case that is like another one holds its own over the other's, name by name. */
const byName = ['parameters', 'initial', 'stimuli'] as const;
type ByName = (typeof byName)[number];

/**
 * Cases with what they take over from those they are like: everything but the name, the words about it, what it is meant for and its tags. Parameters, start values and stimuli
 * are taken over name by name, all else as a whole.
 * @param unusable names of cases whose documents cannot be read; who is like them is left out without a word
 */
export function resolvedCases(
  written: ReadonlyMap<string, WrittenCaseDocument>,
  unusable: ReadonlySet<string>,
  faults: Faults,
): ReadonlyMap<string, CaseDocument> {
  const resolved = new Map<string, CaseDocument | undefined>();
  const resolve = (key: string, found: WrittenCaseDocument, open: readonly string[]): CaseDocument | undefined => {
    if (resolved.has(key)) return resolved.get(key);
    const made = taken(key, found, open);
    resolved.set(key, made);
    return made;
  };
  const taken = (key: string, { document, raw }: WrittenCaseDocument, open: readonly string[]): CaseDocument | undefined => {
    const { like, loop, ...own } = raw;
    if (like === undefined) return loop === undefined ? undefined : { document, raw: { ...own, loop }, takenOver: [] };
    const other = nameKey(like);
    const base = written.get(other);
    if (!base) {
      if (!unusable.has(other)) tellUnknown(like, document, written, faults);
      return undefined;
    }
    if (other === key || open.includes(other)) {
      faults.add(
        'unknown-name',
        document.place(['like']),
        `${raw.case} is like itself, by way of "${like}".`,
        'Let one of these cases stand by itself.',
      );
      return undefined;
    }
    const below = resolve(other, base, [...open, key]);
    return below && laidOver(below, { document, raw });
  };
  return new Map(
    [...written].flatMap(([key, document]) => {
      const found = resolve(key, document, []);
      return found ? [[key, found] as const] : [];
    }),
  );
}

function tellUnknown(like: string, document: ReadDocument, written: ReadonlyMap<string, WrittenCaseDocument>, faults: Faults): void {
  const near = nearestName(
    like,
    [...written.values()].map(({ raw }) => raw.case),
  );
  faults.add(
    'unknown-name',
    document.place(['like']),
    `There is no case "${like}".`,
    near ? `Did you mean "${near}"?` : 'Name another case, or leave "like" out.',
  );
}

function laidOver(base: CaseDocument, { document, raw }: WrittenCaseDocument): CaseDocument {
  const { like, ...own } = raw;
  // What a case is called, is about, is meant for and is tagged with is its own alone.
  const { about: _about, meant_for: _meantFor, tags: _tags, stop, end, ...inherited } = base.raw;
  // When it ends is one thing, however it is said.
  const ending = own.stop === undefined && own.end === undefined ? { ...(stop === undefined ? {} : { stop }), ...(end ? { end } : {}) } : {};
  const merged = Object.fromEntries(
    byName.flatMap((group) => (own[group] || inherited[group] ? [[group, { ...inherited[group], ...own[group] }]] : [])),
  );
  return {
    document: layered(document, own, base.document),
    raw: { ...inherited, ...ending, ...own, ...merged, loop: own.loop ?? inherited.loop },
    takenOver: [base.document.file, ...base.takenOver],
    ...(like === undefined ? {} : { like }),
  };
}

/** Looks for a place in the document that says it: the own one, or that of the other case. */
function layered(own: ReadDocument, raw: Omit<WrittenCase, 'like'>, other: ReadDocument): ReadDocument {
  const of = ([group, name]: Path): ReadDocument => {
    const isByName = (key: unknown): key is ByName => byName.some((one) => one === key);
    if (isByName(group)) return name === undefined || raw[group]?.[String(name)] !== undefined ? own : other;
    return group === undefined || Object.hasOwn(raw, group) ? own : other;
  };
  return {
    ...own,
    place: (path) => of(path).place(path),
    keyPlace: (path) => of(path).keyPlace(path),
    placesWithin: (path) => of(path).placesWithin(path),
  };
}
