import { isIdentifier, nameKey, reservedWords } from '@/core/language';

/** Turns identifiers of XML into names of ours, each its own; messages keep their dots. */
export class Names {
  private readonly byId = new Map<string, string>();
  private readonly used = new Set<string>();

  of(id: string): string {
    const known = this.byId.get(id);
    if (known) return known;
    const plain = identifier(id);
    let name = plain;
    for (let count = 2; this.used.has(nameKey(name)); count += 1) name = `${plain}_${count}`;
    this.byId.set(id, name);
    this.used.add(nameKey(name));
    return name;
  }

  /** Pairs of identifier and name. */
  all(): ReadonlyMap<string, string> {
    return this.byId;
  }
}

export function messageName(event: string): string {
  return event
    .split('.')
    .map((part) => (part === '*' ? part : identifier(part)))
    .join('.');
}

function identifier(id: string): string {
  if (isIdentifier(id) && !reservedWords.has(id.toLowerCase())) return id;
  const joined = id
    .split(/[^A-Za-z0-9]+/)
    .filter((part) => part !== '')
    .join('_');
  return /^[A-Za-z]/.test(joined) && !reservedWords.has(joined.toLowerCase()) ? joined : `x_${joined}`;
}
