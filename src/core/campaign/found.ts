import type { Margin, Verdict } from '@/core/criteria';
import type { RunResult } from '@/core/project';
import { type Correlation, exactInterval, firstOrderIndex, type Interval, rankCorrelation } from '@/core/statistics';
import type { Point, Quantity } from '@/core/variation';

/** A run of a campaign with what it found. */
export interface FoundRun {
  readonly number: number;
  readonly point: Point;
  readonly result: RunResult;
}

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
  /** Share that fails of the runs that decide it, at 95 %: only where runs were drawn independently of each other. */
  readonly interval?: Interval;
  /** The least margin that was found, and where. */
  readonly least?: Least;
  /** How the margin goes along with each quantity that has numbers, in their order. */
  readonly influence: readonly Influence[];
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
 * Sums up the runs of a campaign, criterion by criterion. Untriggered runs and errors are counted apart: they pass nothing.
 * @param isIndependent the runs were drawn independently of each other: only then the share that fails has an interval
 * @param watched the criteria that were watched, so that one of which only errors are known is told as well
 */
export function sumUp(
  runs: readonly FoundRun[],
  watched: readonly { readonly requirement: string; readonly name: string }[],
  quantities: readonly Quantity[],
  isIndependent: boolean,
): CriterionOverRuns[] {
  return watched.map(({ requirement, name }) => {
    const seen = runs.map((run) => ({ run, found: run.result.results.find((one) => one.requirement === requirement && one.name === name) }));
    const isError = ({ run }: (typeof seen)[number]): boolean => run.result.error !== undefined;
    const count = (verdict: Verdict): number => seen.filter((one) => one.found?.verdict === verdict && (verdict === 'fail' || !isError(one))).length;
    const failed = count('fail');
    const passed = count('pass');
    const margins = seen.flatMap(({ run, found }): RunMargin[] => {
      const worst = found?.worst === undefined ? undefined : found.obligations[found.worst]?.margin;
      return worst ? [{ run, margin: worst }] : [];
    });
    const least = leastOf(margins);
    return {
      requirement,
      criterion: name,
      isOneOfSeveral: watched.filter((one) => one.requirement === requirement).length > 1,
      passed,
      failed,
      inconclusive: count('inconclusive'),
      untriggered: count('none'),
      errors: seen.filter((one) => isError(one) && one.found?.verdict !== 'fail').length,
      ...(isIndependent && passed + failed > 0 ? { interval: exactInterval(failed, passed + failed) } : {}),
      ...(least ? { least } : {}),
      influence: influences(
        quantities,
        margins.map(({ run, margin }) => ({ point: run.point, measure: margin.measure })),
      ),
    };
  });
}

interface RunMargin {
  readonly run: FoundRun;
  readonly margin: Margin;
}

function leastOf(margins: readonly RunMargin[]): Least | undefined {
  const [first] = margins;
  if (!first) return undefined;
  const { run, margin } = margins.reduce((best, one) => (one.margin.measure < best.margin.measure ? one : best), first);
  return {
    value: margin.value,
    unit: margin.unit,
    ...(margin.atLeast ? { atLeast: true as const } : {}),
    run: run.number,
    point: run.point,
    isEverywhere: margins.length > 1 && margins.every((one) => one.margin.measure === margin.measure),
  };
}

function influences(quantities: readonly Quantity[], margins: readonly { readonly point: Point; readonly measure: number }[]): Influence[] {
  const measures = margins.map((one) => one.measure);
  return quantities.flatMap(({ name }, index): Influence[] => {
    const values = margins.map(({ point }) => point[index]);
    if (!values.every((value) => typeof value === 'number')) return [];
    const rank = rankCorrelation(values, measures);
    const explains = firstOrderIndex(values, measures);
    return [{ quantity: name, ...(rank ? { rank } : {}), ...(explains === undefined ? {} : { explains }) }];
  });
}
