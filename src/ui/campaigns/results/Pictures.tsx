'use client';
import { useState } from 'react';
import { type CampaignView, type CriterionPictures, type CriterionView, levelWords } from '@/core/campaign';
import { figure, percent } from '@/core/wording';
import { csvOf } from '../../format/csvOf';
import { useFetched } from '../../hooks/useFetched';
import { Choice } from '../../parts/Choice';
import { sameCriterion } from './criterionKey';
import { Family } from './Family';
import { Figure } from './Figure';
import { GoesWith } from './GoesWith';
import { MarginHistogram } from './MarginHistogram';
import { MarginMaps } from './MarginMaps';
import { MarginScatter } from './MarginScatter';
import { WorstRuns } from './WorstRuns';

interface PicturesProps {
  readonly slug: string;
  readonly revision: number;
  readonly view: CampaignView;
  readonly criterion: CriterionView;
  /** Number of a campaign that is laid over this one. */
  readonly against: string | undefined;
}

/** What the runs found of one criterion, drawn. */
export function Pictures({ slug, revision, view, criterion, against }: PicturesProps) {
  const id = view.progress.id;
  const mark = view.progress.done;
  const { found } = useFetched<CriterionPictures>(`/api/campaigns/${id}/criteria/${criterion.index}?runs=${mark}`);
  const other = useOther(slug, against, criterion);
  const [quantity, setQuantity] = useState(0);
  if (!found) return <p className="mt-4 text-soft">Fetching the runs …</p>;
  if (found.all === 0)
    return <p className="prose-line mt-4">No run has a margin for it: in none did its condition occur, so there is nothing to draw.</p>;
  const numeric = view.quantities.flatMap((one, index) =>
    found.runs.every((run) => typeof run.point[index] === 'number') ? [[index, one.short] as const] : [],
  );
  const across = numeric.find(([index]) => index === quantity) ?? numeric[0];
  return (
    <>
      <p className="mt-3 font-mono text-[12.5px] text-soft">{criterion.sentence}</p>
      <GoesWith criterion={criterion} view={view} />
      <div className="mt-4 grid grid-cols-2 gap-x-8 gap-y-7">
        <Figure title={criterion.figures ? criterion.criterion : `Margins: ${beyondWords(criterion)}`} csv={() => csvOf(histogramRows(found))}>
          <MarginHistogram
            pictures={found}
            other={other}
            isMeasure={criterion.figures !== undefined}
            isGrowth={criterion.figures?.unstable !== undefined}
          />
          {found.quantiles && (
            <p className="text-[12.5px] text-soft">
              median {figure(found.quantiles.median, 4)} {found.unit}; 5 % below {figure(found.quantiles.low, 4)}, 5 % above{' '}
              {figure(found.quantiles.high, 4)}
            </p>
          )}
        </Figure>
        {across && (
          <Figure
            title={`${criterion.figures ? criterion.criterion : 'Margin'} against ${across[1]}`}
            choices={numeric.length > 1 && <Choice label="" named="Quantity" value={across[0]} options={numeric} choose={setQuantity} />}
            csv={() => csvOf(scatterRows(found, view))}
          >
            <MarginScatter
              slug={slug}
              campaign={id}
              pictures={found}
              other={other}
              quantity={across[0]}
              view={view}
              words={criterion.figures ? criterion.criterion : 'margin'}
              isMeasure={criterion.figures !== undefined}
            />
            {found.runs.length < found.all && (
              <p className="text-[12.5px] text-soft">
                {found.runs.length} of {found.all} runs are drawn, the worst among them.
              </p>
            )}
          </Figure>
        )}
        {found.maps.length > 0 && (
          <Figure
            title={criterion.figures ? `Greatest ${criterion.criterion} over both` : 'Least margin over both'}
            csv={() => csvOf(mapRows(found))}
            wide={found.maps.length > 1}
          >
            <MarginMaps slug={slug} campaign={id} pictures={found} view={view} figures={criterion.figures} />
          </Figure>
        )}
        <Family view={view} criterion={criterion} worst={found.worst[0]?.number} wide={found.maps.length !== 1} />
      </div>
      <WorstRuns slug={slug} revision={revision} view={view} pictures={found} />
    </>
  );
}

/** The same criterion in the other campaign. */
function useOther(slug: string, against: string | undefined, criterion: CriterionView): CriterionPictures | undefined {
  const { found: view, of } = useFetched<CampaignView>(against === undefined ? undefined : `/api/projects/${slug}/campaigns/${against}`);
  const same = against !== undefined && view && of?.endsWith(`/${against}`) ? sameCriterion(view, criterion) : undefined;
  const { found } = useFetched<CriterionPictures>(same && `/api/campaigns/${against}/criteria/${same.index}`);
  return same ? found : undefined;
}

function beyondWords({ failed, passed }: CriterionView): string {
  const decided = failed + passed;
  return decided === 0 ? 'decided nowhere' : failed === 0 ? 'none beyond the limit' : `${percent(failed / decided)} beyond the limit`;
}

function histogramRows({ histogram, unit }: CriterionPictures): (string | number)[][] {
  const { from = 0, width = 0, counts = [] } = histogram ?? {};
  return [
    [`margin from [${unit}]`, `to [${unit}]`, 'runs'],
    ...counts.map((count, index) => [from + index * width, from + (index + 1) * width, count]),
  ];
}

function scatterRows({ runs, unit }: CriterionPictures, { quantities }: CampaignView): (string | number)[][] {
  return [
    ['run', ...quantities.map((one) => one.name), `margin [${unit}]`, 'verdict'],
    ...runs.map((one) => [one.number, ...one.point.map((level) => (typeof level === 'number' ? level : levelWords(level))), one.margin, one.verdict]),
  ];
}

function mapRows({ maps, unit }: CriterionPictures): (string | number)[][] {
  return maps.flatMap(({ across, up, acrossLevels, upLevels, at, cells }) => [
    [up, across, ...(at ? [at.name] : []), `least margin [${unit}]`, 'runs', 'failing'],
    ...cells.map((cell, index) => [
      levelWords(upLevels[Math.floor(index / acrossLevels.length)] ?? ''),
      levelWords(acrossLevels[index % acrossLevels.length] ?? ''),
      ...(at ? [levelWords(at.level)] : []),
      cell.margin ?? '',
      cell.runs,
      cell.failed,
    ]),
  ]);
}
