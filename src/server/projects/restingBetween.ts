import { setImmediate } from 'node:timers/promises';
import type { Steps } from '@/core/steps';

/** So long others wait at most for one step and those before it (ms). */
const longestWithoutRest = 20;

/** Does the steps one after the other, and lets the server answer others in between. */
export async function restingBetween<Result>(steps: Steps<Result>): Promise<Result> {
  let rested = performance.now();
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (performance.now() - rested < longestWithoutRest) continue;
    await setImmediate();
    rested = performance.now();
  }
}
