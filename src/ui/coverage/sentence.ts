import type { CoverageReport } from '@/core/coverage';
import { plural } from '@/core/wording';
import type { FoundCoverage } from './useCoverage';

/** What was touched, in a sentence. */
export function coverageSentence({ count, what, report }: FoundCoverage): string {
  const touched = touchedWords(report, count === 1);
  return touched === '' ? 'There is no sampled logic that runs could touch.' : `${plural(count, what)} ${touched}.`;
}

/** What one or several runs touched: `enter 3 of 4 states and take 5 of 9 transitions`. Empty where there is nothing to touch. @param isOne of one: `enters` */
export function touchedWords({ items, conditions }: CoverageReport, isOne: boolean): string {
  const does = (verb: string): string => (isOne ? `${verb}${verb.endsWith('ch') ? 'es' : 's'}` : verb);
  const share = (kind: string, verb: string, of: string): string[] => {
    const own = items.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [`${does(verb)} ${own.filter((one) => one.count > 0).length} of ${plural(own.length, of)}`];
  };
  const decided =
    conditions.length === 0
      ? []
      : [`${does('show')} ${conditions.filter((one) => one.shown).length} of ${plural(conditions.length, 'condition')} to decide`];
  const parts = [
    ...share('state', 'enter', 'state'),
    ...share('transition', 'take', 'transition'),
    ...share('outcome', 'see', 'outcome'),
    ...share('row', 'use', 'row'),
    ...share('position', 'see', 'position'),
    ...share('limit', 'reach', 'limit'),
    ...share('message', 'send', 'message'),
    ...decided,
  ];
  const [last, ...others] = [...parts].reverse();
  return last === undefined ? '' : `${others.length > 0 ? `${others.reverse().join(', ')} and ` : ''}${last}`;
}
