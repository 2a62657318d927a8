import type { CampaignView, CriterionView } from '@/core/campaign';
import { percent, signedFigure } from '@/core/wording';

interface GoesWithProps {
  readonly criterion: CriterionView;
  readonly view: CampaignView;
}

/** Shares below this say nothing. */
const leastShare = 0.005;

/** Which quantities the margin, or the figure, goes with: the rank correlation with its interval, and the share of the variance each explains alone. */
export function GoesWith({ criterion: { influence, figures }, view }: GoesWithProps) {
  const sure = influence.filter(({ rank }) => rank && (rank.low > 0 || rank.high < 0));
  if (sure.length === 0) return null;
  return (
    <p className="mt-1 text-[13px] text-soft">
      {figures ? 'It' : 'The margin'} goes with{' '}
      {sure.map(({ quantity, rank, explains = 0 }, index) => (
        <span key={quantity}>
          {index > 0 && ', '}
          <span className="figure text-ink">{view.quantities.find((one) => one.name === quantity)?.short ?? quantity}</span>
          {rank &&
            ` (rank correlation ${signedFigure(rounded(rank.value))}, ${signedFigure(rounded(rank.low))} to ${signedFigure(rounded(rank.high))} at 95 %`}
          {explains >= leastShare && `; explains ${percent(explains)} of the variance alone`})
        </span>
      ))}
      .
    </p>
  );
}

function rounded(value: number): number {
  return Number(value.toFixed(2));
}
