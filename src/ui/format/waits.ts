/** Waits between two tries (s), growing; the last stays. */
const waits = [1, 2, 4, 8, 15];

/** How long to wait before the next try, after so many (s). */
export function waitBefore(tries: number): number {
  return waits[Math.min(tries, waits.length - 1)] as number;
}
