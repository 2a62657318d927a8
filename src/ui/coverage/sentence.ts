import { plural } from '@/core/wording';
import type { FoundCoverage } from './useCoverage';

/** What was touched, in a sentence. */
export function coverageSentence({ count, what, report: { items, conditions } }: FoundCoverage): string {
  const s = count === 1 ? 's' : '';
  const share = (kind: string, verb: string, of: string): string[] => {
    const own = items.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [`${verb}${s} ${own.filter((one) => one.count > 0).length} of ${plural(own.length, of)}`];
  };
  const decided =
    conditions.length === 0
      ? []
      : [`show${s} ${conditions.filter((one) => one.shown).length} of ${plural(conditions.length, 'condition')} to decide`];
  const parts = [
    ...share('state', 'enter', 'state'),
    ...share('transition', 'take', 'transition'),
    ...share('outcome', 'see', 'outcome'),
    ...share('row', 'use', 'row'),
    ...decided,
  ];
  if (parts.length === 0) return 'There is no sampled logic that runs could touch.';
  const [last, ...others] = [...parts].reverse();
  return `${plural(count, what)} ${others.length > 0 ? `${others.reverse().join(', ')} and ` : ''}${last}.`;
}
