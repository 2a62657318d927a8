import { memo } from 'react';
import { drawnPair, type SignalComparison, signalOf } from '@/core/compare';
import type { Column, Trace } from '@/core/trace';
import { isBand, Lane, type LaneCurve, laneScale, shortName, toneOf } from '../plot/lane/Lane';
import type { LaneFrame } from '../plot/lane/laneFrame';

/** What the runs are called at the end of their curves. */
export const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'];

const dashes = [undefined, '6 3', '2 3', '9 3 2 3'];

/** The stroke of the n-th signal of a lane: its tone says which run it is of. */
export function dashOf(index: number): string | undefined {
  return dashes[index % dashes.length];
}

/** The curves of some signals, of each run that has them. */
export function curvesOf(traces: readonly Trace[], columns: readonly Column[]): LaneCurve[] {
  return columns.flatMap(({ name }, signal) =>
    traces.flatMap((trace, run): LaneCurve[] => {
      const column = trace.columns.find((one) => one.name === name);
      if (!column) return [];
      const words = columns.length > 1 ? `${ordinals[run]} ${shortName(column)}` : ordinals[run];
      const dash = dashOf(signal);
      return [{ trace, column, tone: toneOf(run), ...(words && !isBand(column) ? { name: words } : {}), ...(dash ? { dash } : {}) }];
    }),
  );
}

interface CompareLaneProps {
  readonly traces: readonly Trace[];
  /** Of the first run. */
  readonly columns: readonly Column[];
  /** The one of the others whose gap to the first is shaded. */
  readonly focus: number;
  readonly signals: readonly SignalComparison[];
  /** The time that the first and that one have in common. */
  readonly span: { readonly from: number; readonly until: number };
  readonly band: { readonly absolute: number; readonly relative: number };
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  /** Room for labels at the right (px). */
  readonly right: number;
}

/** Some signals of all runs over one scale; the gap is shaded where it leaves its band, and a line shows where it does so first. */
export const CompareLane = memo(function CompareLane({ traces, columns, focus, signals, span, band, frame, top, height, right }: CompareLaneProps) {
  const curves = curvesOf(traces, columns);
  const y = columns.every(isBand) ? undefined : laneScale(curves, frame, top, height, []);
  const x = (t: number): number => frame.left + ((t - frame.from) / (frame.until - frame.from)) * frame.width;
  const first = columns
    .flatMap(({ name }) => signals.find((one) => one.name === name)?.parts ?? [])
    .filter((t) => t >= frame.from && t <= frame.until);
  const shade = columns.map(({ name }) => gapOf(traces[0], traces[focus + 1], name, span, band, frame, y, top + height)).join('');
  return (
    <g>
      {y && <path d={shade} stroke="var(--fail)" strokeOpacity={0.3} strokeWidth={1.2} />}
      {first.map((t) => (
        <line key={t} x1={x(t)} x2={x(t)} y1={top} y2={top + height} stroke="var(--fail)" strokeDasharray="4 3" />
      ))}
      <Lane curves={curves} frame={frame} top={top} height={height} limits={[]} right={right} />
      {!y && <path d={shade} stroke="var(--fail)" strokeWidth={1.2} />}
    </g>
  );
});

/** Height of the marks below bands that differ (px). */
const mark = 5;

/** Between two curves of a signal, where they part; below bands, marks of where they differ. */
function gapOf(
  one: Trace | undefined,
  other: Trace | undefined,
  name: string,
  span: { readonly from: number; readonly until: number },
  band: { readonly absolute: number; readonly relative: number },
  frame: LaneFrame,
  y: ((value: number) => number) | undefined,
  bottom: number,
): string {
  const [a, b] = [one, other].map((trace) => {
    const column = trace?.columns.find((each) => each.name === name);
    return trace && column ? signalOf(column, trace) : undefined;
  });
  const [from, until] = [Math.max(span.from, frame.from), Math.min(span.until, frame.until)];
  if (!a || !b || until <= from) return '';
  const scale = frame.width / (frame.until - frame.from);
  const count = Math.max(1, Math.round((until - from) * scale));
  const { low, high, parts } = drawnPair(a, b, from, until, count, band);
  const left = frame.left + (from - frame.from) * scale;
  let path = '';
  parts.forEach((isApart, column) => {
    if (isApart === 0) return;
    const least = Math.min(low[0][column] as number, low[1][column] as number);
    const most = Math.max(high[0][column] as number, high[1][column] as number);
    if (!Number.isFinite(least) || !Number.isFinite(most)) return;
    path += `M${left + column + 0.5} ${(y ? y(least) : bottom).toFixed(1)}V${(y ? y(most) : bottom - mark).toFixed(1)}`;
  });
  return path;
}
