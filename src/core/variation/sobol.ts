/**
 * Direction numbers of S. Joe, F. Y. Kuo (2008, SIAM J. Sci. Comput. 30, set new-joe-kuo-6.21201; from memory, held by tests of the properties they were searched for):
 * for the second dimension on, degree and inner coefficients of a primitive polynomial, and the first odd numbers m.
 */
const directions: readonly (readonly [degree: number, coefficients: number, m: readonly number[]])[] = [
  [1, 0, [1]],
  [2, 1, [1, 3]],
  [3, 1, [1, 3, 1]],
  [3, 2, [1, 1, 1]],
  [4, 1, [1, 1, 3, 3]],
  [4, 4, [1, 3, 5, 13]],
  [5, 2, [1, 1, 5, 5, 17]],
  [5, 4, [1, 1, 5, 5, 5]],
  [5, 7, [1, 1, 7, 11, 19]],
  [5, 11, [1, 1, 5, 1, 1]],
  [5, 13, [1, 1, 1, 3, 11]],
  [5, 14, [1, 3, 5, 5, 31]],
  [6, 1, [1, 3, 3, 9, 7, 49]],
  [6, 13, [1, 1, 1, 15, 21, 21]],
  [6, 16, [1, 3, 1, 13, 27, 49]],
  [6, 19, [1, 1, 1, 15, 7, 5]],
  [6, 22, [1, 3, 1, 15, 13, 25]],
  [6, 25, [1, 1, 5, 5, 19, 61]],
  [7, 1, [1, 3, 7, 11, 23, 15, 103]],
  [7, 4, [1, 3, 7, 13, 13, 15, 69]],
];

/** Dimensions there are direction numbers for. */
export const mostSobolDimensions = directions.length + 1;

const bits = 32;

/**
 * The first points of the sequence of I. M. Sobol' (1967), in the order of the Gray code of I. A. Antonov, V. M. Saleev (1979): they fill the unit cube evenly, however many are taken.
 * The first one is the origin.
 * @param shift 32-bit words, one a dimension, that are laid over all points by exclusive or: it keeps their evenness and takes them off the edges
 */
export function sobolPoints(count: number, dimensions: number, shift: readonly number[] = []): Float64Array[] {
  if (dimensions > mostSobolDimensions) throw new RangeError(`there are direction numbers for ${mostSobolDimensions} dimensions`);
  const vectors = Array.from({ length: dimensions }, (_, dimension) => vectorsOf(dimension));
  const state = new Uint32Array(dimensions);
  return Array.from({ length: count }, (_, index) => {
    if (index > 0) {
      const changed = trailingOnes(index - 1);
      for (let d = 0; d < dimensions; d += 1) state[d] = (state[d] as number) ^ (vectors[d]?.[changed] ?? 0);
    }
    // In the middle of its cell where it is shifted, so that neither 0 nor 1 is met.
    return Float64Array.from(state, (word, d) => (shift.length > 0 ? ((word ^ (shift[d] ?? 0)) >>> 0) + 0.5 : word) / 2 ** bits);
  });
}

function trailingOnes(index: number): number {
  let count = 0;
  for (let rest = index; rest % 2 === 1; rest = (rest - 1) / 2) count += 1;
  return count;
}

function vectorsOf(dimension: number): Uint32Array {
  const vectors = new Uint32Array(bits);
  const direction = directions[dimension - 1];
  if (!direction) {
    for (let i = 0; i < bits; i += 1) vectors[i] = 2 ** (bits - 1 - i);
    return vectors;
  }
  const [degree, coefficients, m] = direction;
  for (let i = 0; i < bits; i += 1) {
    if (i < degree) {
      vectors[i] = (m[i] as number) * 2 ** (bits - 1 - i);
      continue;
    }
    const before = vectors[i - degree] as number;
    let word = before ^ (before >>> degree);
    for (let k = 1; k < degree; k += 1) if ((coefficients >> (degree - 1 - k)) & 1) word ^= vectors[i - k] as number;
    vectors[i] = word;
  }
  return vectors;
}
