'use client';
import type { CampaignLine, CampaignView, CriterionView } from '@/core/campaign';
import { useFetched } from '../../hooks/useFetched';
import { Choice } from '../../parts/Choice';
import { sameCriterion } from './criterionKey';

interface AgainstProps {
  readonly slug: string;
  readonly view: CampaignView;
  readonly lines: readonly CampaignLine[];
  readonly against: string | undefined;
  readonly choose: (id: string | undefined) => void;
  readonly chosen: CriterionView | undefined;
}

/** Another campaign laid over this one: before and after a change, or one plant and another. */
export function Against({ slug, view, lines, against, choose, chosen }: AgainstProps) {
  const others = lines.flatMap(({ name, made }) =>
    made
      .filter((one) => one.id !== view.progress.id && one.done > 0)
      .map((one) => [String(one.id), `${name}, revision ${one.revision}, ${one.createdAt.slice(0, 16).replace('T', ' ')}`] as const),
  );
  const { found } = useFetched<CampaignView>(against === undefined ? undefined : `/api/projects/${slug}/campaigns/${against}`);
  const same = found && chosen && sameCriterion(found, chosen);
  if (others.length === 0) return null;
  return (
    <>
      <Choice
        label="Compare with"
        value={against ?? ''}
        options={[['', 'no other campaign'] as const, ...others]}
        choose={(id) => choose(id === '' ? undefined : id)}
      />
      {against !== undefined && found && (
        <span className="w-full font-serif text-[15px] text-ink">
          There: {same ? same.words : `${chosen?.requirement ?? 'this criterion'} was not watched.`}
        </span>
      )}
    </>
  );
}
