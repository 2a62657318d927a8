'use client';
import Link from 'next/link';
import { useState } from 'react';
import { type CampaignView, type CriterionPictures, type CriterionView, levelWords, type MapCell, type MarginMap } from '@/core/campaign';
import { figure, plural } from '@/core/wording';

interface MarginMapsProps {
  readonly slug: string;
  readonly campaign: number;
  readonly pictures: CriterionPictures;
  readonly view: CampaignView;
  /** Of a measure, of which the greatest value is shown. */
  readonly figures: CriterionView['figures'];
}

const [left, bottom, top] = [76, 42, 8];

/** The least margin in each cell of a grid: failing cells pointed at by their sign, the size of the margin by the depth of the tone. A cell opens its worst run. */
export function MarginMaps({ slug, campaign, pictures, view, figures }: MarginMapsProps) {
  const [at, setAt] = useState<MapCell>();
  const most = Math.max(
    ...pictures.maps.flatMap(({ cells }) => cells.map((one) => Math.abs(one.margin ?? 0))).filter(Number.isFinite),
    Number.MIN_VALUE,
  );
  const size = pictures.maps.length > 1 ? ([260, 200] as const) : ([440, 250] as const);
  return (
    <>
      <div className="flex flex-wrap gap-4">
        {pictures.maps.map((map) => (
          <OneMap
            key={map.at ? levelWords(map.at.level) : ''}
            map={map}
            most={most}
            size={size}
            view={view}
            address={(run) => `/p/${slug}/campaigns/${campaign}/runs/${run}`}
            tell={setAt}
            words={figures ? 'Greatest figure' : 'Least margin'}
          />
        ))}
      </div>
      <p className="h-5 text-[12.5px] text-soft">
        {at
          ? cellWords(at, pictures.unit, figures)
          : figures
            ? `The deeper its tone, the further from 0.${figures.unstable === undefined ? '' : ' A cell with a stroke is above 0: the loop is unstable there.'} A click opens the run.`
            : 'A cell with a stroke holds a run that fails; the deeper its tone, the larger the margin. A click opens its worst run.'}
      </p>
    </>
  );
}

function cellWords({ margin, runs, failed, run }: MapCell, unit: string, figures: MarginMapsProps['figures']): string {
  if (margin === undefined) return figures ? 'No run here has the figure.' : 'No run here has a margin.';
  if (figures) return `Greatest ${figure(margin, 4)} ${unit} of ${plural(runs, 'run')}, in run ${run}.`;
  return `Least margin ${figure(margin, 4)} ${unit} of ${plural(runs, 'run')}, ${failed} failing; the worst is run ${run}.`;
}

interface OneMapProps {
  readonly map: MarginMap;
  readonly most: number;
  readonly size: readonly [width: number, height: number];
  readonly view: CampaignView;
  readonly address: (run: number) => string;
  readonly tell: (cell: MapCell | undefined) => void;
  /** What the cells show. */
  readonly words: string;
}

function OneMap({ map, words, most, size: [width, height], view, address, tell }: OneMapProps) {
  const { across, up, acrossLevels, upLevels, cells, at } = map;
  const [w, h] = [(width - left) / acrossLevels.length, (height - bottom - top) / upLevels.length];
  const shortOf = (name: string): string => view.quantities.find((one) => one.name === name)?.short ?? name;
  const unitOf = (name: string): string => view.quantities.find((one) => one.name === name)?.unit ?? '';
  const marks = (count: number, room: number): number => Math.max(1, Math.ceil((count * 34) / room));
  return (
    <figure>
      {at && (
        <figcaption className="text-[12.5px] text-soft">
          {shortOf(at.name)} {levelWords(at.level)} {unitOf(at.name)}
        </figcaption>
      )}
      <svg width={width} height={height} role="img" aria-label={`${words} over ${across} and ${up}`}>
        {cells.map((cell, index) => {
          const [column, row] = [index % acrossLevels.length, Math.floor(index / acrossLevels.length)];
          const place = { x: left + column * w, y: top + (upLevels.length - 1 - row) * h, w: w - 1, h: h - 1 };
          return <Cell key={`${column} ${row}`} cell={cell} most={most} {...place} address={address} tell={tell} />;
        })}
        {upLevels.map((level, row) =>
          row % marks(upLevels.length, (height - bottom - top) * 1.8) === 0 ? (
            <text
              key={levelWords(level)}
              x={left - 6}
              y={top + (upLevels.length - row - 0.5) * h + 4}
              fontSize={11}
              textAnchor="end"
              fill="var(--soft)"
            >
              {levelWords(level)}
            </text>
          ) : null,
        )}
        {acrossLevels.map((level, column) =>
          column % marks(acrossLevels.length, width - left) === 0 ? (
            <text key={levelWords(level)} x={left + (column + 0.5) * w} y={height - bottom + 15} fontSize={11} textAnchor="middle" fill="var(--soft)">
              {levelWords(level)}
            </text>
          ) : null,
        )}
        <text x={left + (width - left) / 2} y={height - 8} fontSize={11.5} textAnchor="middle" fill="var(--ink)">
          {shortOf(across)} {unitOf(across)}
        </text>
        <text
          x={14}
          y={top + (height - bottom - top) / 2}
          fontSize={11.5}
          textAnchor="middle"
          fill="var(--ink)"
          transform={`rotate(-90 14 ${top + (height - bottom - top) / 2})`}
        >
          {shortOf(up)} {unitOf(up)}
        </text>
      </svg>
    </figure>
  );
}

interface CellProps extends Pick<OneMapProps, 'most' | 'address' | 'tell'> {
  readonly cell: MapCell;
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

function Cell({ cell, most, x, y, w, h, address, tell }: CellProps) {
  const { margin, run, failed } = cell;
  if (margin === undefined || run === undefined)
    return <rect x={x} y={y} width={w} height={h} fill="none" stroke="var(--lack)" strokeDasharray="3 3" strokeOpacity={0.6} />;
  const depth = 0.18 + 0.82 * Math.min(1, Math.sqrt(Math.abs(margin) / most));
  return (
    <Link href={address(run)} aria-label={`run ${run}, ${figure(margin, 4)}`} onMouseEnter={() => tell(cell)} onMouseLeave={() => tell(undefined)}>
      <rect x={x} y={y} width={w} height={h} fill={failed > 0 ? 'var(--fail)' : 'var(--pass)'} fillOpacity={depth} />
      {failed > 0 && <line x1={x + 3} x2={x + w - 3} y1={y + h - 3} y2={y + 3} stroke="var(--sheet)" strokeWidth={1.2} />}
    </Link>
  );
}
