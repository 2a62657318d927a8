/** Coefficients of an explicit pair whose last stage is the first of the next step. */
export interface Pair {
  readonly c: readonly number[];
  readonly a: readonly (readonly number[])[];
  readonly b: readonly number[];
  /** Weights of the embedded solution of lower order. */
  readonly lower: readonly number[];
  /** Order of the embedded solution plus one. */
  readonly order: number;
  /** Weights of the last term of the dense output of order 4; without them it is the cubic through values and slopes. */
  readonly dense?: readonly number[];
}

/**
 * Dormand and Prince's 5(4) pair (J. Comput. Appl. Math. 6, 1980) and its dense output of order 4
 * (Hairer, Nørsett, Wanner, Solving Ordinary Differential Equations I, section II.6).
 */
export const dormandPrince = {
  c: [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1],
  a: [
    [],
    [1 / 5],
    [3 / 40, 9 / 40],
    [44 / 45, -56 / 15, 32 / 9],
    [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
    [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
    [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
  ],
  b: [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84, 0],
  lower: [5179 / 57600, 0, 7571 / 16695, 393 / 640, -92097 / 339200, 187 / 2100, 1 / 40],
  order: 5,
  dense: [
    -12715105075 / 11282082432,
    0,
    87487479700 / 32700410799,
    -10690763975 / 1880347072,
    701980252875 / 199316789632,
    -1453857185 / 822651844,
    69997945 / 29380423,
  ],
} as const satisfies Pair;

/** Bogacki and Shampine's 3(2) pair (Applied Mathematics Letters 2, 1989). */
export const bogackiShampine = {
  c: [0, 1 / 2, 3 / 4, 1],
  a: [[], [1 / 2], [0, 3 / 4], [2 / 9, 1 / 3, 4 / 9]],
  b: [2 / 9, 1 / 3, 4 / 9, 0],
  lower: [7 / 24, 1 / 4, 1 / 3, 1 / 8],
  order: 3,
} as const satisfies Pair;
