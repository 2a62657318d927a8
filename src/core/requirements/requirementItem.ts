/** One requirement as it comes from outside: prose, and what stands beside it. */
export interface RequirementItem {
  readonly id: string;
  readonly section: string;
  readonly text: string;
  readonly source?: string;
  readonly level?: string;
  readonly verifyBy?: string;
  readonly relations?: readonly Relation[];
}

export const relationKinds = ['parent', 'derives', 'refines', 'conflicts'] as const;
export type RelationKind = (typeof relationKinds)[number];

/** What a requirement has to do with another one. */
export interface Relation {
  readonly kind: RelationKind;
  readonly to: string;
}

/** An id at the head of a line: `TL-014`, `REQ_3.2`, `[SYS-7]`, `R12`; a word before a number ("Pump 1") is none. */
const idAtHead = /^[[(*_`]*(?<id>[A-Z][A-Z0-9]{0,9}[-_.]?\d[\w.-]*?|[A-Za-z]\w{0,9}[-_]\d[\w.-]*?)[\])*_`]*(?:\s*[:—–|)]|\s+-|\.?\s)\s*(?=\S)/;

/** Takes an id off the head of a line. */
export function splitId(line: string): { readonly id?: string; readonly text: string } {
  const found = idAtHead.exec(line);
  const id = found?.groups?.id;
  return found && id ? { id, text: line.slice(found[0].length).trim() } : { text: line.trim() };
}

/** Gives ids to items that came without: the most common prefix of those that have one, and the next free number. */
export function withIds(items: readonly (Omit<RequirementItem, 'id'> & { readonly id?: string })[], taken: readonly string[]): RequirementItem[] {
  const known = [...taken, ...items.flatMap((item) => item.id ?? [])];
  const used = new Set(known.map((id) => id.toLowerCase()));
  const prefix = commonPrefix(known);
  let number = 0;
  return items.map((item) => {
    if (item.id) return { ...item, id: item.id };
    let id: string;
    do {
      number += 1;
      id = `${prefix}${String(number).padStart(3, '0')}`;
    } while (used.has(id.toLowerCase()));
    used.add(id.toLowerCase());
    return { ...item, id };
  });
}

function commonPrefix(ids: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const id of ids) {
    const prefix = /^(.*?)\d+$/.exec(id)?.[1];
    if (prefix !== undefined) counts.set(prefix, (counts.get(prefix) ?? 0) + 1);
  }
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best?.[0] ?? 'R-';
}
