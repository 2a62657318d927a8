import type { HostedWork } from './types';

/** Entries and exits of states, and messages sent, that a host can tell of one hit. */
export const mostMarks = 256;

/** Messages that a host can send to others in one hit. */
export const mostSent = 32;

/**
 * Where things stand among the values that go out to a host and come back: 0 the site of the first run-time error + 1, or 0; 1 how many marks follow;
 * then the marks, twice the number of each and one more where it is entered; then the values that sent messages carry; then what the host takes; then what it gives.
 */
export const hostedPlaces = { fault: 0, marked: 1, marks: 2, sent: 2 + mostMarks, takes: 2 + mostMarks + mostSent } as const;

/** How many values a task of a host exchanges. */
export function hostedRoom({ takes, gives }: Pick<HostedWork, 'takes' | 'gives'>): number {
  return hostedPlaces.takes + takes.length + gives.length;
}
