import { scaleLinear } from 'd3-scale';
import { timeTicks } from '@/core/wording';
import type { LaneFrame } from './laneFrame';

/** The time axis beneath the lanes. */
export function TimeAxis({ frame, top }: { readonly frame: LaneFrame; readonly top: number }) {
  const x = scaleLinear([frame.from, frame.until], [frame.left, frame.left + frame.width]);
  const ticks = timeTicks(x.domain()[0] ?? 0, x.domain()[1] ?? 1, Math.max(2, Math.floor(frame.width / 110)));
  // A label at either end stays inside the frame.
  const anchor = (tick: number): 'start' | 'middle' | 'end' =>
    x(tick) < frame.left + 24 ? 'start' : x(tick) > frame.left + frame.width - 24 ? 'end' : 'middle';
  return (
    <g>
      <line x1={frame.left} x2={frame.left + frame.width} y1={top} y2={top} stroke="var(--ink)" />
      {ticks.map(({ at, label }) => (
        <text key={at} x={x(at)} y={top + 14} textAnchor={anchor(at)} fontSize={11} fontFamily="var(--font-mono)" fill="var(--soft)">
          {label}
        </text>
      ))}
    </g>
  );
}
