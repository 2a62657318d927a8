import type { StopRule } from '@/core/project';
import type { Interval } from '@/core/statistics';
import type { Level, Point, Quantity } from '@/core/variation';
import { figure, marginWords, percent, plural } from '@/core/wording';
import type { LookedAt } from './ending';
import type { CriterionOverRuns, FiguresOverRuns } from './found';
import { ofMeasure } from './table';

/** What the runs say of a criterion, in one sentence: `TL-012 fails in 37 of 500 runs: 5.3 to 10.1 % at 95 % confidence; worst −0.061 m at sway 0.094.` */
export function sentenceOver(found: CriterionOverRuns, quantities: readonly Quantity[]): string {
  if (found.requirement === ofMeasure) return measureWords(found, quantities);
  const decided = found.passed + found.failed;
  const parts = [decided === 0 ? 'is decided in no run' : decidedWords(found, decided), ...othersOf(found), ...leastOf(found, quantities)];
  return `${found.requirement}${found.isOneOfSeveral ? ` “${found.criterion}”` : ''} ${parts.join('; ')}.`;
}

/** `filling time: 312 s in the median, nine tenths between 280 and 350 s; greatest 402 s at sway 0.09.` */
function measureWords({ criterion, figures }: CriterionOverRuns, quantities: readonly Quantity[]): string {
  if (!figures) return `${criterion}: no run has it.`;
  const { unit, runs, median, low, high, greatest } = figures;
  const of = `${plural(runs, 'run')}`;
  const spread = `${figure(median, 4)} ${unit} in the median of ${of}, nine tenths between ${figure(low, 4)} and ${figure(high, 4)} ${unit}`;
  const stands = standingWords(figures);
  const held = figures.bound === undefined ? '' : `; at 95 % confidence 95 % of runs lie at or below ${figure(figures.bound, 4)} ${unit}`;
  return `${criterion}: ${stands}${spread}${held}; greatest ${figure(greatest.value, 4)} ${unit} at ${pointWords(greatest.point, quantities)}.`.replace(
    / {2,}/g,
    ' ',
  );
}

/** Of a measure of stability: in how many runs the loop is unstable, or on the border. */
function standingWords({ runs, unstable, border = 0 }: FiguresOverRuns): string {
  if (unstable === undefined) return '';
  const all = plural(runs, 'run');
  const atZero = border > 0 ? `0 in ${border} of ${all}, where the loop is on the border; ` : '';
  if (unstable > 0) return `above 0 in ${unstable} of ${all}: the loop is unstable there; ${atZero}`;
  return atZero || `below 0 in all ${all}: the loop is stable; `;
}

function decidedWords({ failed, passed, untriggered, inconclusive, errors, discounted, interval }: CriterionOverRuns, decided: number): string {
  const all = untriggered + inconclusive + errors + discounted === 0;
  const runs = all ? plural(decided, 'run') : `${plural(decided, 'run')} that decide${decided === 1 ? 's' : ''} it`;
  const share = interval ? `: ${spanWords(interval)} at 95 % confidence` : '';
  return failed > 0
    ? `fails in ${decided === 1 ? (all ? 'the one run' : `the one ${runs.slice(2)}`) : `${failed} of ${runs}`}${share}`
    : `passes in ${passed === 1 ? 'the one' : 'all'} ${runs}${interval ? `; share that fails ${spanWords(interval)} at 95 % confidence` : ''}`;
}

/** `5.3 to 10.1 %` */
function spanWords({ low, high }: Interval): string {
  return `${percent(low).replace(/\s*%$/, '')} to ${percent(high)}`;
}

function othersOf({ untriggered, inconclusive, errors, discounted }: CriterionOverRuns): string[] {
  return [
    ...(untriggered > 0 ? [`${plural(untriggered, 'run')} ${untriggered === 1 ? 'does' : 'do'} not trigger it`] : []),
    ...(inconclusive > 0 ? [`${inconclusive} inconclusive`] : []),
    ...(errors > 0 ? [`${errors} ended in an error`] : []),
    ...(discounted > 0 ? [`${discounted} passed with a plant that is not believable there`] : []),
  ];
}

function leastOf({ least, failed }: CriterionOverRuns, quantities: readonly Quantity[]): string[] {
  if (!least) return [];
  const where = least.isEverywhere ? 'everywhere' : `at ${pointWords(least.point, quantities)}`;
  return [`${failed > 0 ? 'worst' : 'least margin'} ${marginWords(least)} ${where}`];
}

/** What ended a campaign before its time, or what its claim is still waiting for, in a sentence; nothing where its rule has said nothing. */
export function endingWords(rule: StopRule, { runs, failed, decided, ended }: LookedAt): string {
  if (rule.k !== 'claim') return ended ? `Ended with run ${runs}, the first that fails.` : '';
  const claim = `${rule.requirement} fails in at most ${percent(rule.atMost)} of runs`;
  const so = `${failed} of ${plural(decided, 'run')} failed`;
  if (ended === 'holds') return `Decided: ${claim}, at ${percent(rule.confidence)} confidence (${so}).`;
  if (ended === 'refuted')
    return `Decided: ${rule.requirement} fails in more than ${percent(rule.atMost)} of runs, at ${percent(rule.confidence)} confidence (${so}).`;
  return `Open: whether ${claim} (${so}).`;
}

/** Values of a point by the short names of its quantities. */
export function pointWords(point: Point, quantities: readonly Quantity[]): string {
  const names = shortNames(quantities.map((one) => one.name));
  return quantities.map((_, index) => `${names[index]} ${levelWords(point[index] as Level)}`).join(', ');
}

/** The ends of names, as long as it takes to tell them apart: `sway`, but `first.offset` beside `second.offset`. */
export function shortNames(names: readonly string[]): string[] {
  const ending = (name: string, parts: number): string => name.split('.').slice(-parts).join('.');
  return names.map((name) => {
    let parts = 1;
    while (ending(name, parts) !== name && names.some((other) => other !== name && ending(other, parts) === ending(name, parts))) parts += 1;
    return ending(name, parts);
  });
}

export function levelWords(level: Level): string {
  if (typeof level === 'number') return figure(level, 4);
  return typeof level === 'boolean' ? (level ? 'TRUE' : 'FALSE') : level;
}
