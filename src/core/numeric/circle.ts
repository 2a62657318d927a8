import preciseCos from '@stdlib/math-base-special-cos';
import preciseSin from '@stdlib/math-base-special-sin';

/** Angles whose squares (rad²) lie between these take the short way: below an eighth of a turn by a little, to keep clear of the border of the general functions. */
export const smallSquare = 0.616;
export const tinySquare = 1e-14;

/** Coefficients of FreeBSD's k_sin.c (9.3), lowest power first. */
export const sine = [
  -0.16666666666666632, 0.00833333333332249, -0.0001984126982985795, 0.0000027557313707070068, -2.5050760253406863e-8, 1.58969099521155e-10,
] as const;
/** Coefficients of FreeBSD's k_cos.c (9.3), as the general function has them. */
export const cosine = [
  0.0416666666666666, -0.001388888888887411, 0.00002480158728947673, -2.7557314351390663e-7, 2.087572321298175e-9, -1.1359647557788195e-11,
] as const;

/** From e_rem_pio2.c: 2/π; the first 33 bits of π/2, and the rest. */
const [quartersARadian, quarter, quarterRest] = [0.6366197723675814, 1.5707963267341256, 6.077100506506192e-11];
/** Squares of the angles (rad²) that are reduced here: from 9π/4, up to which the general function has branches of its own, to where it counts in whole numbers. */
const [leastTurned, mostTurned] = [50, 2.7e12];

/**
 * Sine without the looks at the bits of the argument that the general function takes: for angles of up to some hundred thousand turns the very polynomials and order of
 * operations, so that the bits are the same.
 * @param x angle (rad)
 */
export function sin(x: number): number {
  const z = x * x;
  if (isSmall(z)) return x + z * x * (sine[0] + z * sineRest(z));
  return z > leastTurned && z < mostTurned ? turned(x, 0, preciseSin) : preciseSin(x);
}

/**
 * Cosine in the same manner.
 * @param x angle (rad)
 */
export function cos(x: number): number {
  const z = x * x;
  if (isSmall(z)) return cosineNear(x, 0);
  return z > leastTurned && z < mostTurned ? turned(x, 1, preciseCos) : preciseCos(x);
}

function isSmall(square: number): boolean {
  return square < smallSquare && square > tinySquare;
}

/** The sine of an angle and so many quarters of a turn, after Cody and Waite (1980): what is left of the angle is known to twice the digits. */
function turned(x: number, ahead: 0 | 1, general: (x: number) => number): number {
  const quarters = Math.round(x * quartersARadian);
  const r = x - quarters * quarter;
  const w = quarters * quarterRest;
  const y = r - w;
  // So near to a whole number of quarters that more digits of π are wanted.
  if (Math.abs(y) * 32_768 < Math.abs(x)) return general(x);
  const tail = r - y - w;
  const turns = quarters + ahead;
  const value = (turns & 1) === 0 ? sineNear(y, tail) : cosineNear(y, tail);
  return (turns & 2) === 0 ? value : -value;
}

/** k_sin.c: the sine of x + y, where y is a tail of x. */
function sineNear(x: number, y: number): number {
  const z = x * x;
  const v = z * x;
  if (y === 0) return x + v * (sine[0] + z * sineRest(z));
  return x - (z * (0.5 * y - v * sineRest(z)) - y - v * sine[0]);
}

function sineRest(z: number): number {
  return sine[1] + z * (sine[2] + z * sine[3]) + z * (z * z) * (sine[4] + z * sine[5]);
}

/** k_cos.c: the cosine of x + y. */
function cosineNear(x: number, y: number): number {
  const z = x * x;
  const r = z * (cosine[0] + z * (cosine[1] + z * cosine[2])) + z * z * (z * z) * (cosine[3] + z * (cosine[4] + z * cosine[5]));
  const rest = 1 - 0.5 * z;
  return rest + (1 - rest - 0.5 * z + (z * r - x * y));
}
