import { scaleLinear } from 'd3-scale';
import { type DrawnPair, drawnPair, type SignalComparison, signalOf, valueAt } from '@/core/compare';
import type { Column, Trace } from '@/core/trace';
import { figure, figures, timeWords } from '@/core/wording';
import { TimeAxis } from '../plot/LanePlot';

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
  const [a, b] = [signalOf(one, first), signalOf(other, second)];
  const drawn = drawnPair(a, b, from, until, width, band);
  const values = [...drawn.low, ...drawn.high].flatMap((list) => [...list].filter(Number.isFinite));
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = (high - low || Math.abs(high) || 1) * 0.08;
  const y = scaleLinear([low - room, high + room], [height - 8, 8]);
  const ticks = y.ticks(4);
  const course = (of: 0 | 1): string => courseOf(drawn.low[of], drawn.high[of], y);
  const parts = signal.parts === undefined ? undefined : ((signal.parts - from) / (until - from)) * width;
  const at = cursor === undefined ? undefined : { px: ((cursor - from) / (until - from)) * width, a: valueAt(a, cursor), b: valueAt(b, cursor) };
  return (
    <figure className="mb-3">
      <figcaption className="flex items-baseline gap-2 text-[15px]">
        <span className="font-semibold">{signal.name}</span> <span className="text-soft">{signal.unit}</span>
        {at && cursor !== undefined && (
          <span className="figure ml-auto text-[12.5px]" role="status">
            at {timeWords(cursor)}: {figure(at.a)} and {figure(at.b)}, difference {figure(at.b - at.a)}
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
        {ticks.map((tick) => (
          <line key={tick} x1={0} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeDasharray="1 4" />
        ))}
        <path d={shadedOf(drawn, y)} stroke="var(--fail)" strokeOpacity={0.28} strokeWidth={1.2} />
        {parts !== undefined && <line x1={parts} x2={parts} y1={0} y2={height} stroke="var(--fail)" strokeDasharray="4 3" />}
        <path d={course(0)} fill="none" stroke="var(--s1)" strokeWidth={1.8} />
        <path d={course(1)} fill="none" stroke="var(--s2)" strokeWidth={1.8} />
        <ScaleWords ticks={ticks} y={y} />
        {at && (
          <g>
            <line x1={at.px} x2={at.px} y1={0} y2={height} stroke="var(--ink)" strokeWidth={0.8} />
            {Number.isFinite(at.a) && <circle cx={at.px} cy={y(at.a)} r={3.5} fill="var(--s1)" />}
            {Number.isFinite(at.b) && <circle cx={at.px} cy={y(at.b)} r={3.5} fill="var(--s2)" />}
          </g>
        )}
        <TimeAxis frame={{ from, until, left: 0, width }} top={height} />
      </svg>
    </figure>
  );
}

/** Over the curves, each on a little of the sheet. */
function ScaleWords({ ticks, y }: { readonly ticks: readonly number[]; readonly y: (value: number) => number }) {
  const words = figures(ticks);
  return ticks.map((tick, index) => (
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
      {words[index]}
    </text>
  ));
}

/** The course of one signal: in each column of the picture from its least to its greatest value; it breaks off where there is none. */
function courseOf(low: Float64Array, high: Float64Array, y: (value: number) => number): string {
  let path = '';
  low.forEach((least, column) => {
    const most = high[column] as number;
    if (!Number.isFinite(least) || !Number.isFinite(most)) return;
    const begin = column === 0 || !Number.isFinite(low[column - 1]) ? 'M' : 'L';
    const x = column + 0.5;
    // From the end that lies nearer to where the course stood.
    const [near, far] = column > 0 && (low[column - 1] as number) > most ? [most, least] : [least, most];
    path += `${begin}${x} ${y(near).toFixed(1)}${near === far ? '' : `L${x} ${y(far).toFixed(1)}`}`;
  });
  return path;
}

/** Between the two, where they part. */
function shadedOf({ low, high, parts }: DrawnPair, y: (value: number) => number): string {
  let path = '';
  parts.forEach((isApart, column) => {
    if (isApart === 0) return;
    const [least, most] = [
      Math.min(low[0][column] as number, low[1][column] as number),
      Math.max(high[0][column] as number, high[1][column] as number),
    ];
    if (Number.isFinite(least) && Number.isFinite(most)) path += `M${column + 0.5} ${y(least).toFixed(1)}V${y(most).toFixed(1)}`;
  });
  return path;
}
