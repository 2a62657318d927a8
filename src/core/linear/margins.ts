import type { LinearSystem } from './linearise';
import { answerAt, type FrequencyPoint } from './response';

/** How far an open loop that is closed with negative feedback is from instability (Åström and Hägglund; Ogata). */
export interface Margins {
  /** Factor by which the gain may grow (below 1: by which it must shrink), at the frequency where the phase is −180°. */
  readonly gain?: { readonly factor: number; readonly omega: number };
  /** Degrees left at the frequency where the gain is 1, and the delay (s) that would use them up. */
  readonly phase?: { readonly degrees: number; readonly omega: number; readonly delay: number };
}

/** The least margins over all crossings, which are located between the points of the response. */
export function marginsOf(system: LinearSystem, response: readonly FrequencyPoint[], input = 0, output = 0): Margins {
  const at = (omega: number): { re: number; im: number } => answerAt(system, omega, input, output);
  const gainAt = (omega: number): number => {
    const { re, im } = at(omega);
    return Math.log(Math.hypot(re, im));
  };
  const crossings = (of: (omega: number) => number): number[] =>
    response.slice(1).flatMap((point, index) => {
      const before = response[index];
      if (!before || Math.sign(of(before.omega)) === Math.sign(of(point.omega))) return [];
      return [located(of, before.omega, point.omega)];
    });
  const phases = crossings(gainAt).map((omega) => {
    const { re, im } = at(omega);
    const degrees = around(180 + (Math.atan2(im, re) * 180) / Math.PI);
    return { degrees, omega, delay: ((degrees < 0 ? degrees + 360 : degrees) * Math.PI) / 180 / omega };
  });
  const gains = crossings((omega) => at(omega).im)
    .filter((omega) => at(omega).re < 0)
    .map((omega) => ({ factor: -1 / at(omega).re, omega }));
  const phase = least(phases, ({ degrees }) => Math.abs(degrees));
  const gain = least(gains, ({ factor }) => Math.abs(Math.log(factor)));
  return { ...(gain ? { gain } : {}), ...(phase ? { phase } : {}) };
}

/** By halving in the logarithm. */
function located(of: (omega: number) => number, from: number, until: number): number {
  const sign = Math.sign(of(from));
  let [low, high] = [from, until];
  for (let i = 0; i < 60; i += 1) {
    const middle = Math.sqrt(low * high);
    if (Math.sign(of(middle)) === sign) low = middle;
    else high = middle;
  }
  return high;
}

/** Into (−180, 180]. */
function around(degrees: number): number {
  const turned = degrees % 360;
  return turned > 180 ? turned - 360 : turned <= -180 ? turned + 360 : turned;
}

function least<T>(list: readonly T[], size: (one: T) => number): T | undefined {
  return list.reduce<T | undefined>((best, one) => (best && size(best) <= size(one) ? best : one), undefined);
}
