import { printDuration } from '@/core/language';
import { isFixed, type SolverMethod } from '@/core/plan';
import { percent, sentenceOf } from '@/core/wording';
import { type SolverSetting, sameSetting } from './settings';
import type { TrialPoint } from './trial';

export interface Advice {
  /** The setting to take; the present one where nothing is clearly better. */
  readonly setting: SolverSetting;
  readonly words: string;
  /** What is wrong with the present one, where it should be given up for more than its time. */
  readonly why?: string;
}

/** From the method that explains itself to the last resort: accurate and variable first, a fixed step of low order last. */
const practice: readonly SolverMethod[] = ['dormand-prince-54', 'bogacki-shampine-32', 'rosenbrock-43', 'runge-kutta-4', 'heun', 'euler'];
/** Who is not slower than the quickest by this factor is as good, and practice decides. */
const asQuick = 1.2;

/**
 * Which setting to take: of those that keep every verdict and stay near the reference the quickest, and among those about as quick the one practice prefers.
 * @param limit largest deviation allowed, as a share of a signal's span
 */
export function advise(points: readonly TrialPoint[], present: SolverSetting, limit: number): Advice | undefined {
  const now = points.find((one) => sameSetting(one.setting, present));
  if (!now) return undefined;
  const fit = points.filter((one) => !one.error && one.changed.length === 0 && deviationOf(one) <= limit);
  const quickest = Math.min(...fit.map((one) => one.ms));
  const [best] = fit
    .filter((one) => one.ms <= asQuick * quickest)
    .sort((a, b) => practice.indexOf(a.setting.method) - practice.indexOf(b.setting.method) || deviationOf(a) - deviationOf(b));
  const nowFits = fit.includes(now);
  if (!best)
    return {
      setting: present,
      words: `No setting stays within ${percent(limit)} of the reference and keeps every verdict. Allow more, or make the steps shorter.`,
    };
  if (nowFits && (best === now || now.ms <= asQuick * best.ms))
    return {
      setting: present,
      words: `Keep ${settingWords(present)}: it stays within ${percent(deviationOf(now))} of the reference, no verdict changes, and nothing that is as exact is clearly quicker.`,
    };
  const gain = now.ms / best.ms;
  const speed =
    gain >= asQuick
      ? `${gain.toFixed(1)} times as quick as now`
      : gain > 1 / asQuick
        ? 'about as quick as now'
        : `${(1 / gain).toFixed(1)} times slower than now`;
  return {
    setting: best.setting,
    words: `Take ${settingWords(best.setting)}: ${speed}, within ${percent(deviationOf(best))} of the reference, and no verdict changes.`,
    ...(nowFits ? {} : { why: reproach(now, limit) }),
  };
}

function reproach(now: TrialPoint, limit: number): string {
  if (now.error) return sentenceOf(`As it is now, the run ends in an error: ${now.error}`);
  if (now.changed.length > 0)
    return `As it is now, ${now.changed.map((one) => one.requirement).join(', ')} come out otherwise than with the reference.`;
  return `As it is now, ${now.deviations[0]?.name} goes ${percent(deviationOf(now))} from the reference, more than ${percent(limit)}.`;
}

/** The largest share by which any signal left the reference. */
export function deviationOf({ deviations }: TrialPoint): number {
  return deviations[0]?.share ?? 0;
}

const names: Readonly<Record<SolverMethod, string>> = {
  euler: 'Euler',
  heun: 'Heun',
  'runge-kutta-4': 'Runge–Kutta 4',
  'bogacki-shampine-32': 'Bogacki–Shampine 3(2)',
  'dormand-prince-54': 'Dormand–Prince 5(4)',
  'rosenbrock-43': 'Rosenbrock 4(3), for stiff loops',
};

export function methodWords(method: SolverMethod): string {
  return names[method];
}

export function settingWords({ method, stepNs, relativeTolerance }: SolverSetting): string {
  return isFixed(method) ? `${names[method]} at ${printDuration(stepNs)}` : `${names[method]} at a tolerance of ${relativeTolerance}`;
}
