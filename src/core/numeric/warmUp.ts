import { numeric } from './functions';

let warm = false;

/**
 * Takes the elementary functions through all ranges of their argument once. The engine builds them into emitted code as it has seen them used;
 * a branch first met in the middle of a run would throw that code away, at times for good.
 */
export function warmUp(): void {
  if (warm) return;
  warm = true;
  const { atan2, pow, ...ofOne } = numeric;
  for (let i = 0; i < 4000; i += 1) {
    const x = (i % 2 === 0 ? 1 : -1) * 1.009 ** (i - 2000);
    for (const of of Object.values(ofOne)) of(x);
    atan2(x, 1.5 - (i % 3));
    pow(Math.abs(x), 2.5 - (i % 7));
  }
}
