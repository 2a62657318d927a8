import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { numeric } from '@/core/numeric';

/** How one quantity goes along with another, and between which values that lies with some confidence. */
export interface Correlation {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Rank correlation (C. Spearman 1904), ties with their mean rank. The interval is Fisher's transformation with the variance (1 + r²/2) / (n − 3) of
 * D. G. Bonett, T. A. Wright (2000, Psychometrika 65); an approximation that is good for |r| below 0.95 or so.
 * @returns undefined of fewer than four pairs, or where one of the quantities does not vary
 */
export function rankCorrelation(a: readonly number[], b: readonly number[], confidence = 0.95): Correlation | undefined {
  const n = a.length;
  if (n < 4) return undefined;
  const r = pearson(ranks(a), ranks(b));
  if (Number.isNaN(r)) return undefined;
  if (Math.abs(r) === 1) return { value: r, low: r, high: r };
  const z = atanh(r);
  const half = normalQuantile((1 + confidence) / 2, 0, 1) * Math.sqrt((1 + (r * r) / 2) / (n - 3));
  return { value: r, low: tanh(z - half), high: tanh(z + half) };
}

/** Ranks from 1; equal values share the mean of theirs. */
export function ranks(values: readonly number[]): number[] {
  const order = values.map((_, index) => index).sort((i, j) => (values[i] as number) - (values[j] as number));
  const found = new Array<number>(values.length);
  for (let from = 0; from < order.length; ) {
    let until = from + 1;
    while (until < order.length && values[order[until] as number] === values[order[from] as number]) until += 1;
    for (let k = from; k < until; k += 1) found[order[k] as number] = (from + until + 1) / 2;
    from = until;
  }
  return found;
}

function pearson(a: readonly number[], b: readonly number[]): number {
  const [meanA, meanB] = [mean(a), mean(b)];
  let [both, squareA, squareB] = [0, 0, 0];
  a.forEach((value, index) => {
    const [da, db] = [value - meanA, (b[index] as number) - meanB];
    both += da * db;
    squareA += da * da;
    squareB += db * db;
  });
  return squareA === 0 || squareB === 0 ? Number.NaN : Math.max(-1, Math.min(1, both / Math.sqrt(squareA * squareB)));
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

function atanh(r: number): number {
  return 0.5 * numeric.ln((1 + r) / (1 - r));
}

function tanh(z: number): number {
  const e = numeric.exp(-2 * Math.abs(z));
  return (Math.sign(z) * (1 - e)) / (1 + e);
}

/** Fewest runs of which an influence is told. */
const fewestRuns = 40;

/**
 * First-order index of I. M. Sobol' (1993): the share of the variance of y that x alone explains, Var(E[y | x]) / Var(y). Estimated from the very runs there are, whatever
 * their design, by classes of x (E. Plischke, E. Borgonovo, C. L. Smith 2013, European Journal of Operational Research 226), less what scatter within
 * classes would give of itself (the correction of an analysis of variance). Its resolution is the width of a class: what oscillates within one is not seen.
 * @returns undefined of fewer than 40 runs, or where x or y does not vary
 */
export function firstOrderIndex(x: readonly number[], y: readonly number[]): number | undefined {
  const n = y.length;
  if (n < fewestRuns) return undefined;
  const classes = classesOf(x).map((members) => members.map((index) => y[index] as number));
  const all = mean(y);
  const total = y.reduce((sum, value) => sum + (value - all) ** 2, 0);
  if (classes.length < 2 || !(total > 0)) return undefined;
  const between = classes.reduce((sum, values) => sum + values.length * (mean(values) - all) ** 2, 0);
  const within = (total - between) / Math.max(1, n - classes.length);
  return Math.max(0, Math.min(1, (between - (classes.length - 1) * within) / total));
}

/** Indices of values that belong together: equal ones where there are few values, else neighbours in classes of one size. */
function classesOf(x: readonly number[]): number[][] {
  const n = x.length;
  const most = Math.min(50, Math.floor(Math.sqrt(n) / 2) + 2);
  const byValue = new Map<number, number[]>();
  x.forEach((value, index) => {
    const members = byValue.get(value) ?? [];
    members.push(index);
    byValue.set(value, members);
  });
  if (byValue.size <= most) return [...byValue.values()];
  const order = x.map((_, index) => index).sort((i, j) => (x[i] as number) - (x[j] as number) || i - j);
  return Array.from({ length: most }, (_, one) => order.slice(Math.floor((one * n) / most), Math.floor(((one + 1) * n) / most)));
}
