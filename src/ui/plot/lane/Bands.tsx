'use client';
import { useId } from 'react';
import type { Column } from '@/core/trace';
import { type Band, bandsOf, type MixedBand } from '../reduce';
import { shareWords } from './bandWords';
import { wordsWidth } from './labels';
import type { LaneFrame } from './laneFrame';

interface BandsProps {
  readonly column: Column;
  readonly time: Float64Array;
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly x: (t: number) => number;
  readonly tone: string;
}

/** A truth or a chart's region as bands. Stretches thinner than a pixel are stripes of their values, with the share of time of each. */
export function Bands({ column, time, frame, top, height, x, tone }: BandsProps) {
  const bands = bandsOf(time, column.data, frame.from, frame.until, (frame.until - frame.from) / frame.width);
  const look = column.labels ? stateLook(column.labels) : truthLook(tone);
  return (
    <g>
      {bands.map((band) => {
        const left = x(band.from);
        const place = { left, width: Math.max(1, x(band.until) - left), top, height };
        return 'held' in band ? (
          <Stripes key={band.from} band={band} look={look} place={place} />
        ) : (
          <Single key={band.from} band={band} look={look} place={place} />
        );
      })}
    </g>
  );
}

/** What a value is called and filled with; nothing where it is no band but the line between bands. */
type Look = (value: number) => { readonly name: string; readonly fill: string; readonly opacity: number } | undefined;

const truthLook =
  (tone: string): Look =>
  (value) =>
    value === 0 || Number.isNaN(value) ? undefined : { name: 'TRUE', fill: tone, opacity: 0.35 };

const bandTones = ['var(--band-1)', 'var(--band-2)', 'var(--band-3)', 'var(--band-4)', 'var(--band-5)', 'var(--band-6)'];
const stateLook =
  (labels: readonly string[]): Look =>
  (value) => {
    const name = labels[value] ?? '';
    // Of a region the first label stands for no state; of an enumeration it is a value like any other.
    const index = labels[0] === '' ? value - 1 : value;
    return name === '' ? undefined : { name, fill: bandTones[index % bandTones.length] as string, opacity: 1 };
  };

interface Place {
  readonly left: number;
  readonly width: number;
  readonly top: number;
  readonly height: number;
}

function Single({ band, look, place }: { readonly band: Band; readonly look: Look; readonly place: Place }) {
  const { left, width, top, height } = place;
  // Where a recording has no value, there is nothing to draw.
  if (Number.isNaN(band.value)) return null;
  const found = look(band.value);
  if (!found) return <line x1={left} x2={left + width} y1={top + height / 2} y2={top + height / 2} stroke="var(--rule)" strokeWidth={1.5} />;
  return (
    <g>
      <rect x={left} y={top + 6} width={Math.max(1, width - 1)} height={height - 12} fill={found.fill} fillOpacity={found.opacity} />
      <Words text={found.name} place={place} />
    </g>
  );
}

/** Width of a stripe (px). */
const stripe = 2;

function Stripes({ band, look, place }: { readonly band: MixedBand; readonly look: Look; readonly place: Place }) {
  const id = useId();
  const { left, width, top, height } = place;
  const values = [...band.held.keys()];
  const words = shareWords(band, (value) => look(value)?.name);
  return (
    <g>
      <pattern id={id} patternUnits="userSpaceOnUse" x={left} y={0} width={stripe * values.length} height={height}>
        {values.map((value, index) => {
          const found = look(value);
          return found && <rect key={value} x={index * stripe} y={0} width={stripe} height={height} fill={found.fill} fillOpacity={found.opacity} />;
        })}
      </pattern>
      <line x1={left} x2={left + width} y1={top + height / 2} y2={top + height / 2} stroke="var(--rule)" strokeWidth={1.5} />
      <rect x={left} y={top + 6} width={width} height={height - 12} fill={`url(#${id})`}>
        <title>{words}</title>
      </rect>
      <Words text={words} place={place} onStripes />
    </g>
  );
}

/** Where there is room for all of it. */
function Words({
  text,
  place: { left, width, top, height },
  onStripes = false,
}: {
  readonly text: string;
  readonly place: Place;
  readonly onStripes?: boolean;
}) {
  if (width <= wordsWidth(text, 11) + 8) return null;
  const ground = onStripes ? ({ stroke: 'var(--sheet)', strokeWidth: 3, paintOrder: 'stroke' } as const) : {};
  return (
    <text x={left + 5} y={top + height / 2 + 4} fontSize={11} fontFamily="var(--font-mono)" fill="var(--ink)" {...ground}>
      {text}
    </text>
  );
}
