import { figure } from '@/core/wording';

/** A short time as the clock of a machine has it: in microseconds, milliseconds or seconds. */
export function microseconds(us: number): string {
  if (us < 1000) return `${figure(us, 3)} µs`;
  return us < 1e6 ? `${figure(us / 1000, 3)} ms` : `${figure(us / 1e6, 3)} s`;
}
