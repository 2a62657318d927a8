import type { Margin } from '../types';

/**
 * Sums and differences of times. Instants of a run are whole nanoseconds written as seconds; a sum of two such numbers may miss the written form
 * by a last digit (0.1 + 0.2), which must not decide whether a deadline was kept. Instants of crossings are not whole and stay as they are.
 */
export function addTime(t: number, seconds: number): number {
  const sum = t + seconds;
  return snapped(sum, 4 * Number.EPSILON * Math.max(1, Math.abs(sum)));
}

/** How long it is from one instant to another, likewise: from 10.1 s to 10.3 s are 0.2 s. */
export function timeBetween(from: number, until: number): number {
  return snapped(until - from, 4 * Number.EPSILON * Math.max(1, Math.abs(from), Math.abs(until)));
}

/** A difference of times without the dirt of the last digits. */
export function clean(seconds: number): number {
  return snapped(seconds, 2e-11) + 0;
}

/** A margin in time. `atLeast`: the true one is at least this far from 0. */
export function marginOf(seconds: number, atLeast = false): Margin {
  return { value: clean(seconds), unit: 's', measure: seconds, ...(atLeast ? { atLeast } : {}) };
}

function snapped(seconds: number, slack: number): number {
  const whole = Math.round(seconds * 1e9) / 1e9;
  return Math.abs(seconds - whole) <= slack ? whole : seconds;
}
