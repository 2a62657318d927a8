import { Stream, seedOfStream } from '@/core/numeric';

/**
 * Points of the unit cube drawn independently. Each dimension has a stream of its own, so that another quantity leaves those before it as they are.
 * @returns what gives the next point
 */
export function randomPoints(dimensions: number, seed: number): () => Float64Array {
  const streams = Array.from({ length: dimensions }, (_, d) => new Stream(seedOfStream(seed, d)));
  return () => Float64Array.from(streams, (stream) => stream.next());
}

/**
 * Latin hypercube (M. D. McKay, R. J. Beckman, W. J. Conover 1979, Technometrics 21): in each dimension every one of `count` equal strata holds one point,
 * at a random place within it.
 */
export function latinPoints(count: number, dimensions: number, seed: number): Float64Array[] {
  const columns = Array.from({ length: dimensions }, (_, d) => {
    const stream = new Stream(seedOfStream(seed, d));
    return shuffled(count, stream).map((stratum) => (stratum + stream.next()) / count);
  });
  return Array.from({ length: count }, (_, index) => Float64Array.from(columns, (column) => column[index] as number));
}

/** The numbers below `count` in random order (R. A. Fisher, F. Yates 1938, in the form of R. Durstenfeld 1964). */
function shuffled(count: number, stream: Stream): number[] {
  const order = Array.from({ length: count }, (_, index) => index);
  for (let last = count - 1; last > 0; last -= 1) {
    const other = Math.floor(stream.next() * (last + 1));
    [order[last], order[other]] = [order[other] as number, order[last] as number];
  }
  return order;
}
