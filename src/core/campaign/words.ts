import type { Interval } from '@/core/statistics';
import type { Level, Point, Quantity } from '@/core/variation';
import { figure, marginWords, percent, plural } from '@/core/wording';
import type { CriterionOverRuns } from './found';

/** What the runs say of a criterion, in one sentence: `TL-012 fails in 37 of 500 runs: 5.3 to 10.1 % at 95 % confidence; worst −0.061 m at sway 0.094.` */
export function sentenceOver(found: CriterionOverRuns, quantities: readonly Quantity[]): string {
  const decided = found.passed + found.failed;
  const parts = [decided === 0 ? 'is decided in no run' : decidedWords(found, decided), ...othersOf(found), ...leastOf(found, quantities)];
  return `${found.requirement}${found.isOneOfSeveral ? ` “${found.criterion}”` : ''} ${parts.join('; ')}.`;
}

function decidedWords({ failed, passed, untriggered, inconclusive, errors, interval }: CriterionOverRuns, decided: number): string {
  const all = untriggered + inconclusive + errors === 0;
  const runs = all ? plural(decided, 'run') : `${plural(decided, 'run')} that decide${decided === 1 ? 's' : ''} it`;
  const share = interval ? `: ${spanWords(interval)} at 95 % confidence` : '';
  return failed > 0
    ? `fails in ${failed} of ${runs}${share}`
    : `passes in ${passed === 1 ? 'the one' : 'all'} ${runs}${interval ? `; share that fails ${spanWords(interval)} at 95 % confidence` : ''}`;
}

/** `5.3 to 10.1 %` */
function spanWords({ low, high }: Interval): string {
  return `${percent(low).replace(/\s*%$/, '')} to ${percent(high)}`;
}

function othersOf({ untriggered, inconclusive, errors }: CriterionOverRuns): string[] {
  return [
    ...(untriggered > 0 ? [`${plural(untriggered, 'run')} ${untriggered === 1 ? 'does' : 'do'} not trigger it`] : []),
    ...(inconclusive > 0 ? [`${inconclusive} inconclusive`] : []),
    ...(errors > 0 ? [`${errors} ended in an error`] : []),
  ];
}

function leastOf({ least, failed }: CriterionOverRuns, quantities: readonly Quantity[]): string[] {
  if (!least) return [];
  const where = least.isEverywhere ? 'everywhere' : `at ${pointWords(least.point, quantities)}`;
  return [`${failed > 0 ? 'worst' : 'least margin'} ${marginWords(least)} ${where}`];
}

/** Values of a point by the short names of its quantities. */
export function pointWords(point: Point, quantities: readonly Quantity[]): string {
  return quantities.map(({ name }, index) => `${name.split('.').at(-1)} ${levelWords(point[index] as Level)}`).join(', ');
}

export function levelWords(level: Level): string {
  if (typeof level === 'number') return figure(level, 4);
  return typeof level === 'boolean' ? (level ? 'TRUE' : 'FALSE') : level;
}
