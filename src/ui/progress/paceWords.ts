import type { CampaignProgress } from '@/core/evidence';
import { timeWords } from '@/core/wording';

/** How fast runs are made, and how long it will take yet, behind other figures; nothing before the first is done. */
export function paceWords({ done, elapsedMs, leftMs }: CampaignProgress): string {
  if (done === 0) return '';
  const perSecond = done / Math.max(0.001, elapsedMs / 1000);
  const rate = perSecond >= 0.1 ? `${perSecond.toFixed(1)} runs/s` : `${(60 * perSecond).toFixed(1)} runs/min`;
  return `, ${rate}${leftMs === undefined ? '' : `, about ${timeWords(Math.max(1, Math.ceil(leftMs / 1000)))} left`}`;
}
