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

/**
 * Sine without the look at the bits of the argument that the general function begins with: for small angles the very polynomial and order of
 * operations, so that the bits are the same.
 * @param x angle (rad)
 */
export function sin(x: number): number {
  const z = x * x;
  if (!isSmall(z)) return preciseSin(x);
  return x + z * x * (sine[0] + z * (sine[1] + z * (sine[2] + z * sine[3]) + z * (z * z) * (sine[4] + z * sine[5])));
}

/**
 * Cosine in the same manner.
 * @param x angle (rad)
 */
export function cos(x: number): number {
  const z = x * x;
  if (!isSmall(z)) return preciseCos(x);
  const r = z * (cosine[0] + z * (cosine[1] + z * cosine[2])) + z * z * (z * z) * (cosine[3] + z * (cosine[4] + z * cosine[5]));
  const rest = 1 - 0.5 * z;
  return rest + (1 - rest - 0.5 * z + z * r);
}

function isSmall(square: number): boolean {
  return square < smallSquare && square > tinySquare;
}
