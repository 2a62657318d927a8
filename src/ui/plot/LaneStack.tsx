'use client';
import type { ComponentProps } from 'react';
import type { Obligation } from '@/core/criteria';
import type { PenPoint } from '@/core/explain';
import type { Column, Trace } from '@/core/trace';
import { figureRoom, isBand, Lane, type Limit, laneHeight, shortName, toneOf } from './lane/Lane';
import { labelRoom } from './lane/LaneLabels';
import { ObligationShade } from './lane/ObligationShade';
import { TimeAxis } from './lane/TimeAxis';
import { Pen } from './Pen';

interface LaneStackProps {
  readonly trace: Trace;
  readonly columns: readonly Column[];
  readonly from: number;
  readonly until: number;
  readonly width: number;
  readonly label: string;
  readonly limits?: readonly Limit[];
  /** Shaded over all lanes. */
  readonly obligations?: readonly Obligation[];
  /** Write how each obligation ended. */
  readonly told?: boolean;
  /** Where time begins on the sheet (px), to stand in line with what is above. */
  readonly left?: number;
  /** Curves are flat, for many of them. */
  readonly compact?: boolean;
  /** An instant to be marked. */
  readonly mark?: number;
  /** The pen went over a lane, from one point to the next. */
  readonly draw?: (column: Column, from: PenPoint, to: PenPoint) => void;
}

/** Drawn smaller than this, their words could not be read; they scroll sideways instead. */
const leastShare = 0.75;

/** Some lanes over one time axis, to be looked at, and drawn over where that is offered: no zoom, no cursors. */
export function LaneStack({
  trace,
  columns,
  from,
  until,
  width,
  label,
  limits = [],
  obligations = [],
  told = false,
  left = columns.every(isBand) ? 8 : figureRoom,
  compact = true,
  mark,
  draw,
}: LaneStackProps) {
  const drawn = limits.filter(({ slot }) => columns.some((column) => column.slot === slot));
  const right = labelRoom(drawn.map(({ label }) => label));
  const heightOf = (column: Column): number => laneHeight([column], drawn.filter(({ slot }) => slot === column.slot).length, compact);
  const heights = columns.map((column) => heightOf(column) + 16);
  const head = obligations.length > 0 ? 20 : 0;
  const total = heights.reduce((sum, one) => sum + one, head);
  const topOf = (index: number): number => heights.slice(0, index).reduce((sum, one) => sum + one, head);
  const inside = (column: Column, index: number) => ({ top: topOf(index) + 14, height: heightOf(column) });
  const frame = { from, until, left, width: width - left - right };
  const marked = mark === undefined ? undefined : left + ((mark - from) / (until - from)) * frame.width;
  const shades = (named: boolean) => <Shades obligations={obligations} frame={frame} top={head} height={total - head} label={named} />;
  return (
    <div className="overflow-x-auto">
      <svg
        viewBox={`0 0 ${width} ${total + 20}`}
        style={{ minWidth: leastShare * width }}
        className="w-full border border-rule bg-sheet"
        role="img"
        aria-label={label}
      >
        {marked !== undefined && <line x1={marked} x2={marked} y1={0} y2={total} stroke="var(--ink)" strokeDasharray="3 3" />}
        {shades(false)}
        {columns.map((column, index) => (
          <g key={column.slot}>
            <LaneName column={column} y={topOf(index) + 13} />
            <Lane curves={[{ trace, column, tone: toneOf(index) }]} frame={frame} {...inside(column, index)} limits={drawn} right={right} />
          </g>
        ))}
        {told && shades(true)}
        {/* Over everything, so that nothing is in the pen's way. */}
        {draw &&
          columns.map((column, index) => (
            <Pen
              key={column.slot}
              trace={trace}
              column={column}
              frame={frame}
              {...inside(column, index)}
              limits={drawn}
              draw={(before, now) => draw(column, before, now)}
            />
          ))}
        <TimeAxis frame={frame} top={total} />
      </svg>
    </div>
  );
}

interface ShadesProps extends Omit<ComponentProps<typeof ObligationShade>, 'obligation'> {
  readonly obligations: readonly Obligation[];
}

function Shades({ obligations, ...where }: ShadesProps) {
  return obligations.map((one) => <ObligationShade key={`${one.from} ${one.until}`} obligation={one} {...where} />);
}

function LaneName({ column, y }: { readonly column: Column; readonly y: number }) {
  return (
    <text x={6} y={y} fontSize={11} fill="var(--ink)">
      {shortName(column)} <tspan fill="var(--soft)">{column.unit}</tspan>
    </text>
  );
}
