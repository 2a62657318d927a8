import type { Catalogue, CatalogueEntry } from '@/core/loop';
import type { Term } from './types';

const kinds: Readonly<Record<string, Term['kind']>> = { BOOL: 'truth', REAL: 'quantity', LREAL: 'quantity', TIME: 'quantity' };

/** Everything of some loops that prose may speak of, each thing once, under the shortest name a sentence can use. */
export function termsOf(catalogues: readonly Catalogue[]): Term[] {
  const terms = new Map<string, Term>();
  for (const catalogue of catalogues) {
    for (const entry of catalogue.entries) {
      if (entry.role === 'region' || terms.has(entry.name)) continue;
      terms.set(entry.name, {
        name: shortest(entry.name, catalogue),
        path: entry.name,
        kind: kinds[entry.type] ?? 'whole',
        unit: entry.unit === '1' ? '' : entry.unit,
        about: entry.about,
        ...(isInner(entry) ? { inner: true } : {}),
        ...(entry.role === 'parameter' ? { fixed: true } : {}),
      });
    }
    for (const { name } of catalogue.states) {
      if (!terms.has(name)) terms.set(name, { name: shortest(name, catalogue, 2), path: name, kind: 'state', unit: '', about: '' });
    }
  }
  return [...terms.values()];
}

function isInner({ role, name }: CatalogueEntry): boolean {
  return role === 'variable' || role === 'state' || role === 'parameter' || name.split('.').length > 2;
}

/** The shortest end of a name that means this thing alone. */
function shortest(name: string, catalogue: Catalogue, parts = 1): string {
  const path = name.split('.');
  const [own] = catalogue.fullNames(path);
  for (let count = parts; count < path.length; count += 1) {
    const end = path.slice(-count);
    const meant = catalogue.fullNames(end);
    if (meant.length === 1 && meant[0] === own) return end.join('.');
  }
  return name;
}
