import { numeric, Stream, seedOfStream } from '@/core/numeric';
import { coveringArray } from './covering';
import { valueAt } from './distribution';
import type { Level, Point, Quantity } from './quantity';
import { allowedBy, canBe, correlated, type Restrictions, type Rule, unrestricted } from './restrictions';
import { mostSobolDimensions, sobolPoints } from './sobol';
import { latinPoints, randomPoints } from './unitPoints';

/** In which combinations quantities take their values. */
export type Design =
  /** Every level with every other. */
  | { readonly k: 'grid' }
  /** The first levels together, then the second ones, and so on. */
  | { readonly k: 'together' }
  /** Every combination of levels of any `strength` quantities at least once, in few runs. */
  | { readonly k: 'covering'; readonly strength: number }
  | { readonly k: 'random'; readonly runs: number }
  | { readonly k: 'latin hypercube' | 'sobol'; readonly runs: number };

const dust = 1e-12;

/** Equal steps or equal ratios, to the digits that a person would write. */
export function evenLevels(from: number, until: number, steps: number, isLogarithmic: boolean): number[] {
  return Array.from({ length: steps }, (_, index) => {
    const share = index / (steps - 1);
    const level = Number((isLogarithmic ? from * numeric.pow(until / from, share) : from + share * (until - from)).toPrecision(12));
    // What rounding leaves of 0 is 0.
    return Math.abs(level) < dust * Math.max(Math.abs(from), Math.abs(until)) ? 0 : level;
  });
}

/** Names of designs, as people write them. */
export const designNames = 'grid, together, covering strength 2, random, latin hypercube, sobol';

/** The design where none is named: a grid of levels, or random where anything scatters. */
export function usualDesign(quantities: readonly Quantity[]): string {
  return quantities.some((one) => one.spread.k === 'scatter') ? 'random' : 'grid';
}

/** A design by its name, in any of its spellings; nothing where there is none of it. @param runs of a design that draws */
export function designNamed(name: string, runs: number): Design | undefined {
  const wanted = name
    .trim()
    .toLowerCase()
    .replace(/[-_\s]+/g, ' ');
  if (wanted === 'grid' || wanted === 'together') return { k: wanted };
  if (wanted === 'random' || wanted === 'latin hypercube' || wanted === 'sobol') return { k: wanted, runs };
  const covering = /^covering(?: strength)?(?: (\d))?$/.exec(wanted);
  return covering ? { k: 'covering', strength: Number(covering[1] ?? 2) } : undefined;
}

/** More points than this are refused before they are made. */
const mostPoints = 1_000_000;

/** Why a design does not go with some quantities, in words, with what to do; nothing where it does. */
export function misfit(
  design: Design,
  quantities: readonly Quantity[],
  { correlations }: Restrictions = unrestricted,
): { readonly message: string; readonly fix: string } | undefined {
  const scattering = quantities.find((one) => one.spread.k === 'scatter');
  const counts = quantities.map((one) => (one.spread.k === 'levels' ? one.spread.levels.length : 0));
  if (usesLevels(design) && scattering)
    return {
      message: `${scattering.name} scatters; a ${design.k} design takes levels.`,
      fix: 'Give it a list or a range, or choose a random, Latin hypercube or Sobol design.',
    };
  const weighted = quantities.find((one) => one.spread.k === 'levels' && one.spread.weights);
  if (usesLevels(design) && weighted)
    return {
      message: `${weighted.name} has weights; a ${design.k} design takes each level alike.`,
      fix: 'Leave the weights out, or choose a random, Latin hypercube or Sobol design.',
    };
  if (correlations.length > 0 && design.k !== 'random')
    return { message: `Quantities that scatter together are drawn at random, not by a ${design.k} design.`, fix: 'Choose design: random.' };
  if (!canBe(correlations, quantities.length))
    return {
      message: 'No quantities can scatter together so: what two go with, they go with each other as well.',
      fix: 'Take the correlations from one set of measurements, or make them weaker.',
    };
  if (design.k === 'together' && new Set(counts).size > 1)
    return {
      message: `The quantities have ${counts.join(', ')} levels; together they need the same number.`,
      fix: 'Give each as many levels, or choose a grid.',
    };
  if (design.k === 'covering' && design.strength > quantities.length)
    return {
      message: `A strength of ${design.strength} needs ${design.strength} quantities; there are ${quantities.length}.`,
      fix: `Choose a strength of at most ${quantities.length}.`,
    };
  if (design.k === 'sobol' && quantities.length > mostSobolDimensions)
    return {
      message: `A Sobol design takes at most ${mostSobolDimensions} quantities; there are ${quantities.length}.`,
      fix: 'Choose a Latin hypercube or a random design.',
    };
  const count = countOf(design, quantities);
  if (count !== undefined && count > mostPoints)
    return {
      message: `The design has ${count.toLocaleString('en')} points; at most ${mostPoints.toLocaleString('en')} are made.`,
      fix: 'Take fewer levels, or draw some of them at random.',
    };
  return undefined;
}

function usesLevels(design: Design): boolean {
  return design.k === 'grid' || design.k === 'together' || design.k === 'covering';
}

/** How many points a design has, before any is made; a covering array's size is not known before. */
function countOf(design: Design, quantities: readonly Quantity[]): number | undefined {
  const levels = quantities.map((one) => (one.spread.k === 'levels' ? one.spread.levels.length : 0));
  switch (design.k) {
    case 'grid':
      return levels.reduce((product, count) => product * count, 1);
    case 'together':
      return levels[0] ?? 1;
    case 'covering':
      return undefined;
    case 'random':
    case 'latin hypercube':
    case 'sobol':
      return design.runs;
  }
}

/**
 * The points of a design. They follow from the design, the quantities and the seed alone.
 * @throws RangeError where the design does not go with the quantities (`misfit`)
 */
export function pointsOf(design: Design, quantities: readonly Quantity[], seed: number, restrictions: Restrictions = unrestricted): Point[] {
  const problem = misfit(design, quantities, restrictions);
  if (problem) throw new RangeError(problem.message);
  if (quantities.length === 0) return Array.from({ length: countOf(design, quantities) ?? 1 }, () => []);
  if (design.k === 'random') return drawn(design.runs, quantities, seed, restrictions);
  const { rules } = restrictions;
  return laidOut(design, quantities, seed, rules).filter((point) => allowedBy(rules, point));
}

/** Draws for each point that is wanted before it is given up. */
const drawsForEach = 1000;

/** Points that break a rule are drawn again, so that those that are kept are drawn independently of each other still. */
function drawn(runs: number, quantities: readonly Quantity[], seed: number, { correlations, rules }: Restrictions): Point[] {
  const next = randomPoints(quantities.length, seed);
  const points: Point[] = [];
  for (let draw = 0; points.length < runs && draw < runs * (rules.length > 0 ? drawsForEach : 1); draw += 1) {
    const [unit] = correlated([next()], correlations);
    const point = valuesAt(unit as Float64Array, quantities);
    if (allowedBy(rules, point)) points.push(point);
  }
  return points;
}

function laidOut(design: Exclude<Design, { k: 'random' }>, quantities: readonly Quantity[], seed: number, rules: readonly Rule[]): Point[] {
  switch (design.k) {
    case 'grid':
      return grid(quantities);
    case 'together':
      return Array.from({ length: levelsOf(quantities[0] as Quantity).length }, (_, index) => quantities.map((one) => levelsOf(one)[index] as Level));
    case 'covering':
      return coveringArray(
        quantities.map((one) => levelsOf(one).length),
        design.strength,
        seed,
        rules.map(({ columns, allows }) => ({ columns, allows: (row) => allows(levelsAt(row, quantities)) })),
      ).map((row) => row.map((level, index) => levelsOf(quantities[index] as Quantity)[level] as Level));
    case 'latin hypercube':
      return latinPoints(design.runs, quantities.length, seed).map((point) => valuesAt(point, quantities));
    case 'sobol':
      return sobolPoints(design.runs, quantities.length, shiftOf(quantities.length, seed)).map((point) => valuesAt(point, quantities));
  }
}

function levelsOf({ spread }: Quantity): readonly Level[] {
  return spread.k === 'levels' ? spread.levels : [];
}

/** The last quantity changes fastest. */
function grid(quantities: readonly Quantity[]): Level[][] {
  return quantities.reduce<Level[][]>((points, one) => points.flatMap((point) => levelsOf(one).map((level) => [...point, level])), [[]]);
}

/** @param row level indices, of which some may be negative: not there yet */
function levelsAt(row: readonly number[], quantities: readonly Quantity[]): (Level | undefined)[] {
  return row.map((level, index) => levelsOf(quantities[index] as Quantity)[level]);
}

function valuesAt(point: Float64Array, quantities: readonly Quantity[]): Level[] {
  return quantities.map(({ spread }, index) => {
    const u = point[index] as number;
    return spread.k === 'scatter' ? valueAt(spread.distribution, u) : levelAt(spread, u);
  });
}

/** The level at which the shares of those before it, and its own, first exceed u. */
function levelAt({ levels, weights }: Quantity['spread'] & { k: 'levels' }, u: number): Level {
  if (!weights) return levels[Math.floor(u * levels.length)] as Level;
  const all = weights.reduce((sum, one) => sum + one, 0);
  let sum = 0;
  const found = weights.findIndex((weight) => {
    sum += weight;
    return u * all < sum;
  });
  // What rounding leaves at the end belongs to the last that has a weight.
  return levels[found >= 0 ? found : weights.findLastIndex((weight) => weight > 0)] as Level;
}

function shiftOf(dimensions: number, seed: number): number[] {
  return Array.from({ length: dimensions }, (_, d) => Math.floor(new Stream(seedOfStream(seed, d)).next() * 2 ** 32));
}
