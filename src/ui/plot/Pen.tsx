'use client';
import { scaleLinear } from 'd3-scale';
import { type PointerEvent, useRef } from 'react';
import type { PenPoint } from '@/core/explain';
import type { Column, Trace } from '@/core/trace';
import { isBand, type Limit, laneScale } from './lane/Lane';
import type { LaneFrame } from './lane/laneFrame';

interface PenProps {
  readonly trace: Trace;
  readonly column: Column;
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly limits: readonly Limit[];
  readonly draw: (from: PenPoint, to: PenPoint) => void;
}

/** A lane one can draw on. The scale stays as it was when the pen came down: it would flee from the pen otherwise. Of a truth or a state, the stroke turns what lies under its first point. */
export function Pen({ trace, column, frame, top, height, limits, draw }: PenProps) {
  const down = useRef<{ value(event: PointerEvent<SVGRectElement>): number; last: PenPoint }>(undefined);
  const at = (event: PointerEvent<SVGRectElement>): { t: number; y: number } => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(event.currentTarget.getScreenCTM()?.inverse());
    return { t: scaleLinear([frame.left, frame.left + frame.width], [frame.from, frame.until]).clamp(true)(point.x), y: point.y };
  };
  const begin = (event: PointerEvent<SVGRectElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const { t, y } = at(event);
    const scale = laneScale([{ trace, column }], frame, top, height, limits);
    // A truth turns; a chart's region goes on to its next state, an enumeration to its next value.
    const now = valueAt(trace, column, t);
    const turned = column.labels ? nextLabel(now, column.labels) : now === 1 ? 0 : 1;
    const value = isBand(column) ? () => turned : (one: PointerEvent<SVGRectElement>) => scale.invert(at(one).y);
    const first = { at: t, value: isBand(column) ? turned : scale.invert(y) };
    down.current = { value, last: first };
    draw(first, first);
  };
  const move = (event: PointerEvent<SVGRectElement>): void => {
    if (!down.current) return;
    const now = { at: at(event).t, value: down.current.value(event) };
    draw(down.current.last, now);
    down.current.last = now;
  };
  return (
    <rect
      x={frame.left}
      y={top}
      width={frame.width}
      height={height}
      fill="transparent"
      className="cursor-crosshair touch-none"
      onPointerDown={begin}
      onPointerMove={move}
      onPointerUp={() => {
        down.current = undefined;
      }}
    >
      <title>Draw {column.name}</title>
    </rect>
  );
}

function valueAt(trace: Trace, column: Column, t: number): number {
  const time = trace.bases[column.base] as Float64Array;
  let row = 0;
  while (row + 1 < time.length && (time[row + 1] as number) <= t) row += 1;
  return column.data[row] as number;
}

/** The label after one, from the last to the first; no state of a region is passed over. */
function nextLabel(now: number, labels: readonly string[]): number {
  return labels[0] === '' ? (now % Math.max(1, labels.length - 1)) + 1 : (now + 1) % labels.length;
}
