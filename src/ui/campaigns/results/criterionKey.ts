import type { CampaignView, CriterionView } from '@/core/campaign';

type Key = Pick<CriterionView, 'requirement' | 'criterion'>;

/** A criterion in the address. */
export function keyOf({ requirement, criterion }: Key): string {
  return `${requirement}/${criterion}`;
}

/** The same criterion in another campaign. */
export function sameCriterion(view: CampaignView, { requirement, criterion }: Key): CriterionView | undefined {
  return view.criteria.find((one) => one.requirement === requirement && one.criterion === criterion);
}
