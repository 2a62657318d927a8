import { scaleLinear } from 'd3-scale';
import { type Column, curveOf, type SignalComparison, type Trace } from '@/core';
import { TimeAxis } from '../plot/LanePlot';
import { figure, seconds } from '../state/words';

interface OverlayProps {
  readonly first: Trace;
  readonly second: Trace;
  readonly signal: SignalComparison;
  readonly from: number;
  readonly until: number;
  readonly band: { readonly absolute: number; readonly relative: number };
  readonly height: number;
  /** An instant (s), the same in all overlays; it follows the pointer. */
  readonly cursor: number | undefined;
  readonly point: (instant: number | undefined) => void;
}

const width = 820;

/** One signal of both over the same axis; the gap is shaded where it leaves its band. */
export function Overlay({ first, second, signal, from, until, band, height, cursor, point }: OverlayProps) {
  const columnOf = (trace: Trace): Column | undefined => trace.columns.find((column) => column.name === signal.name);
  const [one, other] = [columnOf(first), columnOf(second)];
  if (!one || !other) return null;
  const [a, b] = [curveOf(one, first), curveOf(other, second)];
  const points = Array.from({ length: width + 1 }, (_, px) => {
    const t = from + ((until - from) * px) / width;
    return { px, a: a(t), b: b(t) };
  }).filter((point) => Number.isFinite(point.a) && Number.isFinite(point.b));
  const values = points.flatMap((point) => [point.a, point.b]);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = (high - low || Math.abs(high) || 1) * 0.08;
  const y = scaleLinear([low - room, high + room], [height - 8, 8]);
  const line = (of: 'a' | 'b'): string => points.map((point, index) => `${index === 0 ? 'M' : 'L'}${point.px} ${y(point[of]).toFixed(1)}`).join('');
  const outside = points.filter((point) => Math.abs(point.b - point.a) > band.absolute + band.relative * Math.abs(point.a));
  const parts = signal.parts === undefined ? undefined : ((signal.parts - from) / (until - from)) * width;
  const at = cursor === undefined ? undefined : { px: ((cursor - from) / (until - from)) * width, a: a(cursor), b: b(cursor) };
  return (
    <figure className="mb-3">
      <figcaption className="flex items-baseline gap-2 text-[15px]">
        <span className="font-semibold">{signal.name}</span> <span className="text-soft">{signal.unit}</span>
        {at && cursor !== undefined && (
          <span className="figure ml-auto text-[12.5px]" role="status">
            at {seconds(cursor)}: {figure(at.a)} and {figure(at.b)}, apart by {figure(at.b - at.a)}
          </span>
        )}
      </figcaption>
      <svg
        viewBox={`0 0 ${width} ${height + 20}`}
        className="w-full border border-rule bg-sheet"
        role="img"
        aria-label={`${signal.name} of both`}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          point(from + ((until - from) * (event.clientX - box.left)) / box.width);
        }}
        onPointerLeave={() => point(undefined)}
      >
        {y.ticks(4).map((tick) => (
          <line key={tick} x1={0} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeDasharray="1 4" />
        ))}
        <path
          d={outside.map((point) => `M${point.px} ${y(point.a).toFixed(1)}V${y(point.b).toFixed(1)}`).join('')}
          stroke="var(--fail)"
          strokeOpacity={0.28}
          strokeWidth={1.2}
        />
        {parts !== undefined && <line x1={parts} x2={parts} y1={0} y2={height} stroke="var(--fail)" strokeDasharray="4 3" />}
        <path d={line('a')} fill="none" stroke="var(--s1)" strokeWidth={1.8} />
        <path d={line('b')} fill="none" stroke="var(--s2)" strokeWidth={1.8} />
        {/* Over the curves, each on a little of the sheet. */}
        {y.ticks(4).map((tick) => (
          <text
            key={tick}
            x={4}
            y={y(tick) - 3}
            className="figure"
            fontSize={10}
            fill="var(--ink)"
            stroke="var(--sheet)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {figure(tick)}
          </text>
        ))}
        {at && (
          <g>
            <line x1={at.px} x2={at.px} y1={0} y2={height} stroke="var(--ink)" strokeWidth={0.8} />
            {Number.isFinite(at.a) && <circle cx={at.px} cy={y(at.a)} r={3.5} fill="var(--s1)" />}
            {Number.isFinite(at.b) && <circle cx={at.px} cy={y(at.b)} r={3.5} fill="var(--s2)" />}
          </g>
        )}
        <TimeAxis frame={{ from, until, left: 8, width: width - 16 }} top={height} />
      </svg>
    </figure>
  );
}
