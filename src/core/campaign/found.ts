import type { Margin, Verdict } from '@/core/criteria';
import {
  anytimeInterval,
  type Correlation,
  exactInterval,
  firstOrderIndex,
  type Interval,
  quantile,
  rankCorrelation,
  sorted,
  toleranceBounds,
} from '@/core/statistics';
import type { Point, Quantity } from '@/core/variation';
import { ofMeasure, type RunTable } from './table';

/** What the runs of a campaign found of one criterion. */
export interface CriterionOverRuns {
  readonly requirement: string;
  readonly criterion: string;
  /** The requirement has other criteria beside it. */
  readonly isOneOfSeveral: boolean;
  /** Runs by what they found of it; one that ended in an error proves nothing. */
  readonly passed: number;
  readonly failed: number;
  readonly inconclusive: number;
  readonly untriggered: number;
  readonly errors: number;
  /** Passed where the plant left a range in which it is to be believed: they prove nothing. */
  readonly discounted: number;
  /** Share that fails of the runs that decide it, at 95 %: only where runs were drawn independently of each other. */
  readonly interval?: Interval;
  /** Of a measure, which has no limit: how its figures lie. */
  readonly figures?: FiguresOverRuns;
  /** The least margin that was found, and where. */
  readonly least?: Least;
  /** How the margin goes along with each quantity that has numbers, in their order. */
  readonly influence: readonly Influence[];
}

/** How a measure lies over the runs that have it. */
export interface FiguresOverRuns {
  readonly unit: string;
  readonly runs: number;
  readonly median: number;
  /** Nine tenths lie between. */
  readonly low: number;
  readonly high: number;
  /** At 95 % confidence 95 % of all runs there could be lie at or below it; where there are runs enough, drawn independently. */
  readonly bound?: number;
  /** Of a measure of stability: runs in which it is above 0. */
  readonly unstable?: number;
  /** … and in which it is 0: on the border. */
  readonly border?: number;
  readonly greatest: { readonly value: number; readonly run: number; readonly point: Point };
}

interface Least {
  readonly value: number;
  readonly unit: string;
  readonly atLeast?: true;
  readonly run: number;
  readonly point: Point;
  /** Several runs have it, and all the same. */
  readonly isEverywhere: boolean;
}

export interface Influence {
  readonly quantity: string;
  readonly rank?: Correlation;
  /** Share of the margin's variance that the quantity alone explains. */
  readonly explains?: number;
}

/**
 * The interval that holds for the share of failing runs: exact where independent runs were drawn and their number was laid down before; one that stays valid under looking where
 * they ended for what was seen, or still go on; none where the runs depend on each other.
 */
export type IntervalKind = 'exact' | 'anytime' | 'none';

/** What the runs of a campaign stand on. */
export interface RunGround {
  readonly quantities: readonly Quantity[];
  /** Which interval the share that fails has. */
  readonly interval: IntervalKind;
  /** Names of the measures that say whether the loop is stable: above 0 it is not. */
  readonly growing: ReadonlySet<string>;
  pointOf(number: number): Point;
}

/** Sums up the runs of a campaign that have been made, criterion by criterion. Untriggered runs and errors are counted apart: they pass nothing. */
export function sumUp(table: RunTable, ground: RunGround): CriterionOverRuns[] {
  return table.criteria.map(({ requirement, name }, criterion) => {
    const counts = countsOf(table, criterion);
    const { passed, failed } = counts;
    const margins = marginsOf(table, criterion);
    const figures = requirement === ofMeasure ? figuresOf(margins, ground, ground.growing.has(name)) : undefined;
    const least = figures ? undefined : leastOf(margins, ground);
    return {
      requirement,
      criterion: name,
      isOneOfSeveral: requirement !== ofMeasure && table.criteria.filter((one) => one.requirement === requirement).length > 1,
      ...(figures ? { figures } : {}),
      ...counts,
      ...(ground.interval !== 'none' && !figures && passed + failed > 0 ? { interval: intervalOf(ground.interval, failed, passed + failed) } : {}),
      ...(least ? { least } : {}),
      influence: influences(ground, margins),
    };
  });
}

function intervalOf(kind: 'exact' | 'anytime', failed: number, runs: number): Interval {
  return kind === 'exact' ? exactInterval(failed, runs) : anytimeInterval(failed, runs);
}

type Counts = Pick<CriterionOverRuns, 'passed' | 'failed' | 'inconclusive' | 'untriggered' | 'errors' | 'discounted'>;

/** A run that ended in an error proves nothing, but what it has broken before is broken. */
function countsOf(table: RunTable, criterion: number): Counts {
  const counts: Record<Verdict | 'discounted', number> = { discounted: 0, pass: 0, fail: 0, inconclusive: 0, none: 0, error: 0 };
  for (let index = 0; index < table.size; index += 1) {
    if (table.verdict(index) === undefined) continue;
    const verdict = table.finding(criterion, index)?.verdict;
    if (verdict !== 'fail' && table.error(index)) counts.error += 1;
    else if (verdict) counts[verdict === 'pass' && table.isDiscounted(index) ? 'discounted' : verdict] += 1;
  }
  const { pass, fail, inconclusive, none, error, discounted } = counts;
  return { passed: pass, failed: fail, inconclusive, untriggered: none, errors: error, discounted };
}

interface RunMargin {
  readonly number: number;
  readonly margin: Margin;
}

function marginsOf(table: RunTable, criterion: number): RunMargin[] {
  const found: RunMargin[] = [];
  for (let index = 0; index < table.size; index += 1) {
    const margin = table.finding(criterion, index)?.margin;
    if (margin) found.push({ number: index + 1, margin });
  }
  return found;
}

function figuresOf(margins: readonly RunMargin[], ground: RunGround, isGrowth: boolean): FiguresOverRuns | undefined {
  const [first] = margins;
  if (!first) return undefined;
  const ordered = sorted(margins.map(({ margin }) => margin.value));
  // What is said of all runs there could be is said of independent ones, of a number laid down before.
  const bound = ground.interval === 'exact' ? toleranceBounds(ordered, 0.95, 0.95, 'below')?.high : undefined;
  const greatest = margins.reduce((best, one) => (one.margin.value > best.margin.value ? one : best), first);
  return {
    unit: first.margin.unit,
    runs: margins.length,
    median: quantile(ordered, 0.5),
    low: quantile(ordered, 0.05),
    high: quantile(ordered, 0.95),
    ...(bound === undefined ? {} : { bound }),
    ...(isGrowth
      ? { unstable: margins.filter((one) => one.margin.value > 0).length, border: margins.filter((one) => one.margin.value === 0).length }
      : {}),
    greatest: { value: greatest.margin.value, run: greatest.number, point: ground.pointOf(greatest.number) },
  };
}

function leastOf(margins: readonly RunMargin[], ground: RunGround): Least | undefined {
  const [first] = margins;
  if (!first) return undefined;
  const { number, margin } = margins.reduce((best, one) => (one.margin.measure < best.margin.measure ? one : best), first);
  return {
    value: margin.value,
    unit: margin.unit,
    ...(margin.atLeast ? { atLeast: true as const } : {}),
    run: number,
    point: ground.pointOf(number),
    isEverywhere: margins.length > 1 && margins.every((one) => one.margin.measure === margin.measure),
  };
}

/** Influences are worked out over so many runs at most, taken evenly: more change no digit that matters. */
const mostInInfluence = 20_000;

function influences(ground: RunGround, all: readonly RunMargin[]): Influence[] {
  const step = Math.ceil(all.length / mostInInfluence);
  const margins = step > 1 ? all.filter((_, index) => index % step === 0) : all;
  const measures = margins.map((one) => one.margin.measure);
  const points = margins.map((one) => ground.pointOf(one.number));
  return ground.quantities.flatMap(({ name }, index): Influence[] => {
    const values = points.map((point) => point[index]);
    if (!values.every((value) => typeof value === 'number')) return [];
    const rank = rankCorrelation(values, measures);
    const explains = firstOrderIndex(values, measures);
    return [{ quantity: name, ...(rank ? { rank } : {}), ...(explains === undefined ? {} : { explains }) }];
  });
}
