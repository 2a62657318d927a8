import type { Verdict } from '@/core/criteria';
import { quantile, sorted } from '@/core/statistics';
import type { Level, Point, Quantity } from '@/core/variation';
import type { RunGround } from './found';
import { ofMeasure, type RunTable } from './table';

/** One run as a picture of a criterion shows it. */
export interface PicturedRun {
  /** From 1. */
  readonly number: number;
  readonly point: Point;
  readonly verdict: Verdict;
  /** Value of its worst margin; below 0 the limit is broken. */
  readonly margin: number;
}

/** How often margins lie in spans of equal width. */
export interface Histogram {
  /** Where the first span begins. */
  readonly from: number;
  readonly width: number;
  readonly counts: readonly number[];
  /** Margins that are infinite, and in no span. */
  readonly beyond: number;
}

/** The least margin in each cell of two quantities; over all values of the others. */
export interface MarginMap {
  readonly across: string;
  readonly up: string;
  readonly acrossLevels: readonly Level[];
  readonly upLevels: readonly Level[];
  /** A third quantity that stays at one level. */
  readonly at?: { readonly name: string; readonly level: Level };
  /** Row by row, from the first level up. */
  readonly cells: readonly MapCell[];
}

export interface MapCell {
  readonly runs: number;
  readonly failed: number;
  /** Least margin, and the run that has it; nothing where no run of the cell has one. */
  readonly margin?: number;
  readonly run?: number;
}

/** What the runs say of a criterion, to be drawn. */
export interface CriterionPictures {
  readonly unit: string;
  readonly histogram?: Histogram;
  readonly quantiles?: { readonly low: number; readonly median: number; readonly high: number };
  /** Runs with a margin: all of them, or the worst and others taken evenly. */
  readonly runs: readonly PicturedRun[];
  /** How many have a margin. */
  readonly all: number;
  readonly worst: readonly PicturedRun[];
  readonly maps: readonly MarginMap[];
}

/** Points that a scatter of margins shows at most, and runs that are listed. */
const mostDrawn = 2000;
const mostListed = 20;

/** Draws up what the runs that were made say of a criterion. @param criterion its index in the table */
export function picturesOf(table: RunTable, ground: RunGround, criterion: number): CriterionPictures {
  const runs = picturedRuns(table, ground, criterion);
  // Of a measure the greatest are of interest.
  const sign = table.criteria[criterion]?.requirement === ofMeasure ? -1 : 1;
  const byMargin = [...runs].sort((a, b) => sign * (a.margin - b.margin) || a.number - b.number);
  const finite = sorted(runs.map((one) => one.margin).filter(Number.isFinite));
  const drawn = spread(byMargin, mostDrawn);
  return {
    unit: table.unit(criterion),
    ...(finite.length > 0
      ? {
          histogram: histogramOf(finite, runs.length - finite.length),
          quantiles: { low: quantile(finite, 0.05), median: quantile(finite, 0.5), high: quantile(finite, 0.95) },
        }
      : {}),
    runs: drawn.sort((a, b) => a.number - b.number),
    all: runs.length,
    worst: byMargin.slice(0, mostListed),
    maps: mapsOf(runs, ground.quantities, sign),
  };
}

function picturedRuns(table: RunTable, ground: RunGround, criterion: number): PicturedRun[] {
  const { requirement, name } = table.criteria[criterion] ?? { requirement: '', name: '' };
  // Where the loop is not stable, it is drawn as a failure is.
  const isGrowth = requirement === ofMeasure && ground.growing.has(name);
  const runs: PicturedRun[] = [];
  for (let index = 0; index < table.size; index += 1) {
    const found = table.finding(criterion, index);
    if (!found?.margin) continue;
    runs.push({
      number: index + 1,
      point: ground.pointOf(index + 1),
      verdict: isGrowth ? (found.margin.value > 0 ? 'fail' : 'pass') : found.verdict,
      margin: found.margin.value,
    });
  }
  return runs;
}

/** The first ones, which are the worst, and others evenly from the rest. */
function spread(runs: readonly PicturedRun[], most: number): PicturedRun[] {
  if (runs.length <= most) return [...runs];
  const first = Math.floor(most / 4);
  const [rest, wanted] = [runs.length - first, most - first];
  const others = Array.from({ length: wanted }, (_, index) => runs[first + Math.floor((index * rest) / wanted)] as PicturedRun);
  return [...runs.slice(0, first), ...others];
}

/** Widths of spans that a person reads easily. */
const roundWidths = [1, 2, 2.5, 5, 10];
const wantedSpans = 24;
const leastWidth = 1e-200;

/** Spans of a round width, one of which begins at 0, so that no span holds both sides of the limit. @param ordered finite values in ascending order, at least one */
function histogramOf(ordered: Float64Array, beyond = 0): Histogram {
  const [low, high] = [ordered[0] as number, ordered.at(-1) as number];
  const width = roundWidth((high - low) / wantedSpans || Math.abs(low) / 10 || 1);
  const first = Math.floor(low / width);
  const counts = new Array<number>(Math.floor(high / width) - first + 1).fill(0);
  for (const value of ordered) {
    const span = Math.floor(value / width) - first;
    counts[span] = (counts[span] ?? 0) + 1;
  }
  return { from: first * width, width, counts, beyond };
}

function roundWidth(wanted: number): number {
  // What is smaller is the dust of rounding, and has no round number.
  if (wanted < leastWidth) return 1;
  const ten = 10 ** Math.floor(Math.log10(wanted));
  return (roundWidths.find((one) => one * ten >= wanted) ?? 10) * ten;
}

const mostLevels = 40;
const mostMaps = 9;

/** A map of the first two quantities that have levels; where there is a third, one map for each of its levels. Quantities that scatter have no cells. */
function mapsOf(runs: readonly PicturedRun[], quantities: readonly Quantity[], sign: 1 | -1): MarginMap[] {
  const having = quantities.flatMap((one, index) =>
    one.spread.k === 'levels' && one.spread.levels.length > 1 && one.spread.levels.length <= mostLevels
      ? [{ index, name: one.name, levels: one.spread.levels }]
      : [],
  );
  // A map reads best with the two that have most levels along its sides.
  const [across, up, ...others] = [...having].sort((a, b) => b.levels.length - a.levels.length || a.index - b.index);
  if (!across || !up || having.length < quantities.length) return [];
  const third = others[0];
  const drawn = (of: readonly PicturedRun[], at?: MarginMap['at']): MarginMap => ({
    across: across.name,
    up: up.name,
    acrossLevels: across.levels,
    upLevels: up.levels,
    ...(at ? { at } : {}),
    cells: up.levels.flatMap((y) =>
      across.levels.map((x) =>
        cellOf(
          of.filter(({ point }) => point[across.index] === x && point[up.index] === y),
          sign,
        ),
      ),
    ),
  });
  if (!third || third.levels.length > mostMaps) return [drawn(runs)];
  return third.levels.map((level) =>
    drawn(
      runs.filter(({ point }) => point[third.index] === level),
      { name: third.name, level },
    ),
  );
}

/** @param sign −1 where the greatest is the worst */
function cellOf(runs: readonly PicturedRun[], sign: 1 | -1): MapCell {
  const [first] = runs;
  const failed = runs.filter((one) => one.verdict === 'fail').length;
  if (!first) return { runs: 0, failed };
  const least = runs.reduce((best, one) => (sign * one.margin < sign * best.margin ? one : best), first);
  return { runs: runs.length, failed, margin: least.margin, run: least.number };
}
