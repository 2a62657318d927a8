import { timeWords } from '@/core/wording';

/** How long it will take yet, behind other figures; whole seconds, since it is an estimate. */
export function leftWords(leftMs: number | undefined): string {
  return leftMs === undefined ? '' : `, about ${timeWords(Math.max(1, Math.ceil(leftMs / 1000)))} left`;
}
