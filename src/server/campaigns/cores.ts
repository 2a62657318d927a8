import { availableParallelism } from 'node:os';

/** Threads that a worker on this machine runs at once. Workers on other machines come on top. */
export function coresAtWork(): number {
  return availableParallelism();
}
