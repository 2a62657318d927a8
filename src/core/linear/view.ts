import type { Experiment } from '@/core/simulate';
import { figure, plural, timeWords } from '@/core/wording';
import { sampled, type TransferFunction, transferFunctionOf } from './discretise';
import { type LinearSystem, linearise } from './linearise';
import { type Margins, marginsOf } from './margins';
import { ContinuousPart } from './part';
import { type Pole, polesOf, stabilityOf } from './poles';
import { relevantPart } from './relevant';
import { type FrequencyPoint, frequencyResponse, stepResponse } from './response';
import { steadyState } from './steady';

/** What the linear view is asked for. */
export interface LinearQuestion {
  /** Instant of the case, s. */
  readonly at: number;
  /** Look for the equilibrium near that instant. */
  readonly steady: boolean;
  /** Names of the drive and the signal; without them the first two of which the one acts on the other. */
  readonly drive?: string;
  readonly signal?: string;
  /** Period for a sampled transfer function, s. */
  readonly period?: number;
}

/** A loop's continuous part about a point. Plain data for the page and the command line. */
export interface LinearAnswer {
  readonly words: string;
  readonly drives: readonly string[];
  readonly signals: readonly string[];
  readonly drive: string;
  readonly signal: string;
  readonly driveUnit: string;
  readonly signalUnit: string;
  readonly stability: 'stable' | 'unstable' | 'on the border';
  readonly point: readonly { readonly state: string; readonly unit: string; readonly value: number }[];
  readonly isSteady: boolean;
  /** Of the whole plant; the figures below are of what the drive reaches and the signal sees. */
  readonly poles: readonly Pole[];
  readonly frequency: readonly FrequencyPoint[];
  readonly step: { readonly time: readonly number[]; readonly value: readonly number[] };
  readonly margins: Margins;
  readonly transfer: TransferFunction;
  readonly sampled?: { readonly hold: TransferFunction; readonly tustin: TransferFunction };
}

/**
 * Linearises the continuous part of a case's loop and says how it behaves; what is sampled stands still.
 * @throws RangeError in words, when the case does not get to the instant, or nothing can be driven or seen
 */
export function linearView(experiment: Experiment, question: LinearQuestion): LinearAnswer {
  const part = new ContinuousPart(experiment, question.at);
  if (part.states.length === 0) throw new RangeError('this loop has no continuous states');
  if (part.drives.length === 0) throw new RangeError('nothing acts on the continuous part of this loop: give it a free input or a sampled component');
  const wanted = {
    drives: wantedOf(part.drives, question.drive, 'acts on the continuous part'),
    signals: wantedOf(part.signals, question.signal, 'is a continuous signal'),
  };
  const steady = question.steady ? steadyState(part) : undefined;
  const x = steady?.x ?? part.x0;
  const whole = linearise(part, x, wanted.drives, wanted.signals);
  const poles = polesOf(whole.a);
  const { input, output, system } = answering(whole);
  const [drive, signal] = [wanted.drives[input] ?? 0, wanted.signals[output] ?? 0];
  const acts = system.a.rows > 0 || system.d.get(0, 0) !== 0;
  const own = polesOf(system.a);
  const frequency = frequencyResponse(system, own);
  const stability = stabilityOf(poles);
  const about = (list: typeof part.drives | typeof part.signals, index: number): { name: string; unit: string } =>
    list[index] ?? { name: '', unit: '' };
  return {
    words: `${wordsOf(poles, stability, steady)}${acts ? '' : ` ${about(part.drives, drive).name} does not act on ${about(part.signals, signal).name} here.`}`,
    drives: part.drives.map((one) => one.name),
    signals: part.signals.map((one) => one.name),
    drive: about(part.drives, drive).name,
    signal: about(part.signals, signal).name,
    driveUnit: about(part.drives, drive).unit,
    signalUnit: about(part.signals, signal).unit,
    stability,
    point: part.states.map((state, index) => ({ state: state.name, unit: state.unit, value: x[index] ?? 0 })),
    isSteady: steady?.isSteady ?? false,
    poles,
    frequency,
    step: stepResponse(system, own),
    margins: marginsOf(system, frequency),
    transfer: transferFunctionOf(system),
    ...(question.period === undefined
      ? {}
      : {
          sampled: {
            hold: transferFunctionOf(sampled(system, question.period, 'hold')),
            tustin: transferFunctionOf(sampled(system, question.period, 'tustin')),
          },
        }),
  };
}

/** The first input and output of which the one acts on the other; the first of all where none does. */
function answering(whole: LinearSystem): { readonly input: number; readonly output: number; readonly system: LinearSystem } {
  for (let input = 0; input < whole.b.columns; input += 1)
    for (let output = 0; output < whole.c.rows; output += 1) {
      const system = relevantPart(whole, input, output);
      if (system.a.rows > 0 || system.d.get(0, 0) !== 0) return { input, output, system };
    }
  return { input: 0, output: 0, system: relevantPart(whole) };
}

/** The one of that name; all of them without a name. */
function wantedOf(list: readonly { readonly name: string }[], name: string | undefined, what: string): number[] {
  if (name === undefined) return list.map((_, index) => index);
  const exact = list.findIndex((one) => one.name.toLowerCase() === name.toLowerCase());
  if (exact >= 0) return [exact];
  throw new RangeError(`no ${name} ${what}; there are ${list.map((one) => one.name).join(', ')}`);
}

function wordsOf(poles: readonly Pole[], stability: LinearAnswer['stability'], steady: ReturnType<typeof steadyState> | undefined): string {
  const slowest = poles.find((pole) => pole.frequency > 1e-9);
  const where = steady === undefined ? 'Here' : steady.isSteady ? 'At its equilibrium' : 'Near here';
  const unrest =
    steady && !steady.isSteady
      ? ` No equilibrium was found: ${steady.fastest.state} still changes by ${figure(steady.fastest.perSecond, 3)} a second.`
      : '';
  const growing = poles.filter((pole) => pole.re > 0).reduce<Pole | undefined>((best, pole) => (best && best.re >= pole.re ? best : pole), undefined);
  if (stability === 'unstable' && growing)
    return `${where} the plant is unstable: a disturbance doubles in ${timeWords(Number((Math.LN2 / growing.re).toPrecision(3)))}.${unrest}`;
  const settles =
    slowest && slowest.re < 0 ? `; the slowest mode takes ${timeWords(Number((-1 / slowest.re).toPrecision(3)))} to fall to 37 %.` : '.';
  const integrators = poles.filter((pole) => pole.frequency <= 1e-9).length;
  if (stability === 'on the border')
    return `${where} the plant ${integrators > 0 ? `integrates (${plural(integrators, 'state')})` : 'oscillates without damping'}${settles}${unrest}`;
  return `${where} the plant is stable${settles}${unrest}`;
}
