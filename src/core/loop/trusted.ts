import type { LoopDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { nearestName } from '@/core/language';
import type { Plan } from '@/core/plan';
import type { Catalogue } from './catalogue/catalogue';

/** Spans in which the plant is trusted, bound to their signals. */
export function trustedSpans({ raw, document }: LoopDocument, catalogue: Catalogue, faults: Faults): Pick<Plan, 'trusted'> {
  const trusted = (raw.trusted ?? []).flatMap(({ signal, from, until, because }, index) => {
    const entry = catalogue.findEntry(signal, ['output', 'state', 'variable', 'input']);
    if (!entry) {
      const near = nearestName(
        signal,
        catalogue.entries.map((one) => one.name),
      );
      faults.add(
        'unknown-name',
        document.place(['trusted', index, 'signal']),
        `There is no signal "${signal}" in this loop.`,
        near ? `Did you mean "${near}"?` : 'Give the full name, such as chamber.level.',
      );
      return [];
    }
    if (!(until > from))
      faults.add(
        'outside-limits',
        document.place(['trusted', index, 'until']),
        `The span ${from} … ${until} is empty.`,
        'Give until: a value above from:.',
      );
    return [{ slot: entry.slot, low: from, high: until, because }];
  });
  return { trusted };
}
