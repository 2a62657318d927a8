import type { Catalogue, CatalogueEntry } from '@/core/loop';
import type { Column } from '@/core/trace';

/** A column of a trace that no run has made, on base 0: named, typed and labelled like those of a run. */
export function columnOf(entry: CatalogueEntry, data: Float64Array, catalogue: Catalogue): Column {
  const { name, slot, type, unit } = entry;
  const labels = entry.role === 'region' ? labelsOf(entry, catalogue) : entry.enumeration?.values;
  return { name, slot, base: 0, between: isReal(entry) ? 'straight' : 'held', type, unit, data, ...(labels ? { labels } : {}) };
}

export function isReal({ type }: CatalogueEntry): boolean {
  return type === 'REAL' || type === 'LREAL';
}

/** Names of a region's states by their number; 0 is none. */
function labelsOf({ slot }: CatalogueEntry, catalogue: Catalogue): string[] {
  const labels = [''];
  for (const { name, node } of catalogue.states)
    if (node.k === 'compare' && node.a.k === 'slot' && node.a.slot === slot && node.b.k === 'const')
      labels[node.b.value] = name.split('.').at(-1) ?? name;
  return labels;
}
