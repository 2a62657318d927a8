import { LRUCache } from 'lru-cache';
import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import type { SlotNumber } from '@/core/plan';
import type { Experiment } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { figure, plural } from '@/core/wording';
import { remarksOn } from './remarks';
import { type Aim, aimsOf, recordedInputs, residualsOf } from './residuals';
import type { FitParameter, FitQuestion } from './types';
import { uncertainty } from './uncertainty';

/** A parameter as it was found. */
export interface FoundParameter extends FitParameter {
  readonly value: number;
  /** 95 % interval, by linearisation at the value found; unknown where it cannot be determined. */
  readonly interval?: readonly [number, number];
  readonly isAtBound: boolean;
}

/** How well a signal is met: 100 % is exact, 0 % no better than its mean. */
export interface SignalFit {
  readonly name: string;
  readonly unit: string;
  readonly rms: number;
  readonly fit: number;
  /** The same with the parameters it began with. */
  readonly fitBefore: number;
  /** On the recording that was held out. */
  readonly fitHeldOut?: number;
  /** Recorded and simulated values at the recorded instants, s. */
  readonly curve: { readonly time: Float64Array; readonly recorded: Float64Array; readonly simulated: Float64Array };
}

export interface FitResult {
  readonly words: string;
  readonly parameters: readonly FoundParameter[];
  readonly signals: readonly SignalFit[];
  /** Pairs that the recording hardly tells apart: how they go together, −1 … 1. */
  readonly entangled: readonly { readonly a: string; readonly b: string; readonly correlation: number }[];
  readonly runs: number;
}

/** Of the span between the bounds: step of the differences. */
const step = 1e-4;

/**
 * Finds parameters of a plant by least squares over simulations (Levenberg–Marquardt). Signals count by the size of their own errors, which are found in a first pass. The intervals are those of the linear
 * model at the solution, s² (JᵀJ)⁻¹ with Student's t (Draper and Smith, Applied Regression Analysis), so they hold for errors that are independent from row to row.
 * @throws RangeError in words when nothing can be fitted
 */
export function fitParameters(question: FitQuestion): FitResult {
  const { parameters, recording } = question;
  const experiment = withInputs(question.experiment, recording);
  const first = aimsOf(recording, experiment, question.signals);
  const rows = first.reduce((sum, aim) => sum + aim.time.length, 0);
  if (parameters.length === 0) throw new RangeError('no parameter was chosen');
  if (first.length === 0) throw new RangeError('the recording has no signal of this loop; its columns must be named after signals');
  if (rows <= parameters.length)
    throw new RangeError(`the recording has ${plural(rows, 'row')} for ${plural(parameters.length, 'parameter')}; more are needed`);
  const runs = { count: 0 };
  const start = parameters.map((one) => share(one, one.start));
  const rough = leastSquares(start, residualsAt(experiment, parameters, first, runs), rows);
  // Each signal by its own scatter: what is measured well counts more.
  const scattered = withSizes(first, residualsAt(experiment, parameters, first, runs)(rough));
  const residuals = residualsAt(experiment, parameters, scattered, runs);
  const found = first.length > 1 ? leastSquares(rough, residuals, rows) : rough;
  const { halves, entangled: pairs } = uncertainty(residuals(found), slopesAt(found, residuals));
  const entangled = pairs.map(({ a, b, correlation }) => ({ a: nameOf(parameters, a), b: nameOf(parameters, b), correlation }));
  const results = parameters.map((one, index): FoundParameter => {
    const at = found[index] ?? 0;
    const half = halves[index];
    const value = valueAt(one, at);
    return {
      ...one,
      value,
      isAtBound: at < 1e-6 || at > 1 - 1e-6,
      ...(half === undefined ? {} : { interval: [value - half * (one.max - one.min), value + half * (one.max - one.min)] as const }),
    };
  });
  const signals = fitsOf(question, experiment, first, results);
  const words = [wordsOf(results, signals, entangled), ...remarksOn(question)].join(' ');
  return { words, parameters: results, signals, entangled, runs: runs.count };
}

function withInputs(experiment: Experiment, recording: Trace): Experiment {
  const played = recordedInputs(recording, experiment.plan);
  const inputs = new Set(played.map((change) => change.input));
  const isLeft = (one: { readonly input: number }): boolean => !inputs.has(one.input);
  const stimuli = [...experiment.stimuli.filter(isLeft), ...played].sort((a, b) => a.atNs - b.atNs);
  const { waves = [], walks = [] } = experiment;
  const stopNs = Math.max(1, Math.min(experiment.stopNs, Math.round(recording.until * 1e9)));
  return { ...experiment, stimuli, waves: waves.filter(isLeft), walks: walks.filter(isLeft), stopNs };
}

function share({ min, max }: FitParameter, value: number): number {
  return Math.min(1, Math.max(0, (value - min) / (max - min)));
}

function valueAt({ min, max }: FitParameter, at: number): number {
  return min + at * (max - min);
}

type Residuals = (at: readonly number[]) => Float64Array;

function residualsAt(experiment: Experiment, parameters: readonly FitParameter[], aims: readonly Aim[], runs: { count: number }): Residuals {
  const known = new LRUCache<string, Float64Array>({ max: 20 });
  return (at) => {
    const key = at.join(' ');
    const found =
      known.get(key) ??
      residualsOf(
        experiment,
        parameters.map((one, index) => [one.slot, valueAt(one, at[index] ?? 0)] as const),
        aims,
      );
    if (!known.has(key)) runs.count += 1;
    known.set(key, found);
    return found;
  };
}

function leastSquares(start: readonly number[], residuals: Residuals, rows: number): number[] {
  const { parameterValues } = levenbergMarquardt(
    { x: Array.from({ length: rows }, (_, index) => index), y: new Array<number>(rows).fill(0) },
    (at) => {
      const found = residuals(at);
      return (row) => found[row] ?? 0;
    },
    {
      initialValues: [...start],
      minValues: start.map(() => 0),
      maxValues: start.map(() => 1),
      gradientDifference: step,
      centralDifference: true,
      damping: 1e-3,
      maxIterations: 25,
      errorTolerance: 0,
      improvementThreshold: 1e-9,
    },
  );
  return parameterValues;
}

function withSizes(aims: readonly Aim[], residuals: Float64Array): Aim[] {
  let at = 0;
  return aims.map((aim) => {
    let sum = 0;
    for (let row = 0; row < aim.time.length; row += 1, at += 1) sum += (residuals[at] as number) ** 2;
    return { ...aim, size: aim.size * Math.max(1e-9, Math.sqrt(sum / Math.max(1, aim.time.length))) };
  });
}

/** How each parameter moves each residual, by central differences. */
function slopesAt(found: readonly number[], residuals: Residuals): number[][] {
  return found.map((_, index) => {
    const moved = (by: number): number[] => found.map((value, at) => (at === index ? value + by : value));
    const [above, below] = [residuals(moved(step)), residuals(moved(-step))];
    return Array.from(above, (value, row) => (value - (below[row] as number)) / (2 * step));
  });
}

function nameOf(parameters: readonly FitParameter[], index: number): string {
  return parameters[index]?.name ?? '';
}

function fitsOf(question: FitQuestion, experiment: Experiment, aims: readonly Aim[], found: readonly FoundParameter[]): SignalFit[] {
  const after = found.map((one) => [one.slot, one.value] as const);
  const before = found.map((one) => [one.slot, one.start] as const);
  const [now, then] = [measured(experiment, after, aims), measured(experiment, before, aims)];
  const heldExperiment = question.holdOut && withInputs(question.experiment, question.holdOut);
  const heldAims = question.holdOut && heldExperiment ? aimsOf(question.holdOut, heldExperiment, question.signals) : [];
  const held = heldExperiment ? measured(heldExperiment, after, heldAims) : [];
  return aims.map((aim, index) => {
    const other = heldAims.findIndex((one) => one.slot === aim.slot);
    return {
      name: aim.name,
      unit: aim.unit,
      rms: now[index]?.rms ?? Number.NaN,
      fit: now[index]?.fit ?? Number.NaN,
      fitBefore: then[index]?.fit ?? Number.NaN,
      curve: { time: aim.time, recorded: aim.values, simulated: now[index]?.simulated ?? new Float64Array() },
      ...(other >= 0 ? { fitHeldOut: held[other]?.fit ?? Number.NaN } : {}),
    };
  });
}

interface Measured {
  readonly rms: number;
  readonly fit: number;
  readonly simulated: Float64Array;
}

/** Root mean square of the error in the signal's unit, and the normalised fit, for each aim. */
function measured(experiment: Experiment, overrides: readonly (readonly [SlotNumber, number])[], aims: readonly Aim[]): Measured[] {
  const residuals = residualsOf(experiment, overrides, aims);
  let at = 0;
  return aims.map((aim) => {
    const mean = aim.values.reduce((sum, value) => sum + value, 0) / aim.values.length;
    let [error, spread] = [0, 0];
    const simulated = aim.values.map((value) => {
      const off = (residuals[at] as number) * aim.size;
      error += off ** 2;
      spread += (value - mean) ** 2;
      at += 1;
      return value + off;
    });
    return { rms: Math.sqrt(error / aim.values.length), fit: spread === 0 ? 0 : 100 * (1 - Math.sqrt(error / spread)), simulated };
  });
}

function wordsOf(parameters: readonly FoundParameter[], signals: readonly SignalFit[], entangled: FitResult['entangled']): string {
  const [worst] = [...signals].sort((a, b) => a.fit - b.fit);
  if (!worst) return '';
  const from = `Fit ${worst.fit.toFixed(1)} % (${worst.name}; ${worst.fitBefore.toFixed(1)} % before).`;
  const held = worst.fitHeldOut === undefined ? '' : ` On the recording held out: ${worst.fitHeldOut.toFixed(1)} %.`;
  const bound = parameters
    .filter((one) => one.isAtBound)
    .map((one) => `${one.name} ended at its bound ${figure(one.value)}: the bound decides, not the recording.`);
  const pairs = entangled.map(({ a, b }) => `${a} and ${b} can hardly be told apart by this recording.`);
  // Of those that cannot be told apart that is said already.
  const silent = parameters.filter((one) => one.interval === undefined && entangled.every(({ a, b }) => a !== one.name && b !== one.name));
  const unknown = silent.length > 0 ? [`The recording says nothing about ${silent.map(({ name }) => name).join(', ')}.`] : [];
  return [`${from}${held}`, ...bound, ...pairs, ...unknown].join(' ');
}
