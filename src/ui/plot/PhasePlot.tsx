'use client';
import { scaleLinear } from 'd3-scale';
import { useMemo } from 'react';
import type { Column } from '@/core/trace';
import { figures } from '@/core/wording';
import { type PhasePair, phaseWay } from './phase';
import { valueAt } from './reduce';
import type { Window } from './sheet/window';

/** One way of a phase plot. */
export interface PhaseCurve extends PhasePair {
  readonly tone: string;
}

interface PhasePlotProps {
  readonly label: string;
  readonly curves: readonly PhaseCurve[];
  /** The span of time that is drawn. */
  readonly view: Window;
  /** An instant to be marked on each way (s). */
  readonly at: number | undefined;
}

/** The sheet and the plot inside it (px). */
const [width, height] = [330, 300];
const inside = { left: 58, right: 8, top: 22, bottom: 34 };

/** One signal over another, for the time that is in view, with figures at both axes. */
export function PhasePlot({ label, curves, view: { from, until }, at }: PhasePlotProps) {
  const ways = useMemo(() => curves.map((curve) => phaseWay(curve, from, until)), [curves, from, until]);
  const first = curves[0];
  if (!first) return null;
  const x = scaleLinear(spanOf(ways, 0), [inside.left, width - inside.right]);
  const y = scaleLinear(spanOf(ways, 1), [height - inside.bottom, inside.top]);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full border border-rule bg-sheet" role="img" aria-label={label}>
      <Figures ticks={x.ticks(4)} place={x} isAcross />
      <Figures ticks={y.ticks(5)} place={y} />
      <AxisName column={first.up} x={6} y={13} anchor="start" />
      <AxisName column={first.across} x={width - 6} y={height - 5} anchor="end" />
      {ways.map((way, index) => (
        <path key={curves[index]?.tone} d={pathOf(way, x, y)} fill="none" stroke={curves[index]?.tone} strokeWidth={1.4} strokeLinejoin="round" />
      ))}
      {at !== undefined &&
        curves.map(({ trace, across, up, tone }) => {
          const [px, py] = [across, up].map(({ base, data, between }) =>
            valueAt(trace.bases[base] as Float64Array, data, between === 'held', at),
          ) as [number, number];
          return Number.isNaN(px + py) ? null : <circle key={tone} cx={x(px)} cy={y(py)} r={4} fill={tone} stroke="var(--sheet)" strokeWidth={1.5} />;
        })}
    </svg>
  );
}

function AxisName({
  column: { name, unit },
  x,
  y,
  anchor,
}: {
  readonly column: Column;
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'end';
}) {
  return (
    <text x={x} y={y} textAnchor={anchor} fontSize={11} fill="var(--ink)">
      {name} <tspan fill="var(--soft)">{unit}</tspan>
    </text>
  );
}

function Figures({
  ticks,
  place,
  isAcross = false,
}: {
  readonly ticks: readonly number[];
  readonly place: (value: number) => number;
  readonly isAcross?: boolean;
}) {
  const words = figures(ticks);
  return ticks.map((tick, index) => {
    const px = place(tick);
    const line = isAcross
      ? { x1: px, x2: px, y1: inside.top, y2: height - inside.bottom }
      : { x1: inside.left, x2: width - inside.right, y1: px, y2: px };
    const beside = isAcross
      ? ({ x: px, y: height - inside.bottom + 13, textAnchor: 'middle' } as const)
      : ({ x: inside.left - 5, y: px + 3.5, textAnchor: 'end' } as const);
    return (
      <g key={tick}>
        <line {...line} stroke="var(--rule)" />
        <text {...beside} fontSize={9.5} fontFamily="var(--font-mono)" fill="var(--soft)">
          {words[index]}
        </text>
      </g>
    );
  });
}

/** Least and greatest of all ways along one axis, with a little room. */
function spanOf(ways: readonly (readonly [number, number][])[], axis: 0 | 1): [number, number] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const way of ways)
    for (const point of way) {
      const value = point[axis];
      if (value < low) low = value;
      if (value > high) high = value;
    }
  if (low > high) return [0, 1];
  const room = (high - low || Math.abs(high) || 1) * 0.05;
  return [low - room, high + room];
}

/** Half pixels along a side of the sheet, at most. */
const cells = 2 * Math.max(width, height) + 1;

/** A way on the sheet, to half a pixel; a piece that was drawn already is not drawn again, however often the way passes there. */
function pathOf(way: readonly [number, number][], x: (value: number) => number, y: (value: number) => number): string {
  const drawn = new Set<number>();
  const place = (cell: number): string => `${Math.floor(cell / cells) / 2} ${(cell % cells) / 2}`;
  let path = '';
  let from: number | undefined;
  let isDown = false;
  for (const [across, up] of way) {
    const cell = Number.isNaN(across) ? undefined : Math.round(2 * x(across)) * cells + Math.round(2 * y(up));
    if (cell === from) continue;
    const piece = (from ?? 0) * cells * cells + (cell ?? 0);
    if (cell === undefined || from === undefined || drawn.has(piece)) isDown = false;
    else {
      path += isDown ? `L${place(cell)}` : `M${place(from)}L${place(cell)}`;
      drawn.add(piece);
      isDown = true;
    }
    from = cell;
  }
  return path;
}
