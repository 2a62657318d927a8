'use client';
import { type ScaleLinear, scaleLinear } from 'd3-scale';
import type { Obligation } from '@/core/criteria';
import type { Column, Trace } from '@/core/trace';
import { figures, marginWords, timeTicks, timeWords } from '@/core/wording';
import { Bands } from './Bands';
import type { LaneFrame } from './laneFrame';
import { extremes } from './pyramid';
import { envelopeOf, isDense, lowerBound, reduceCurve } from './reduce';

/** A limit drawn into a lane. */
export interface Limit {
  readonly slot: number;
  readonly value: number;
  readonly label: string;
}

const tones = ['var(--s1)', 'var(--s2)', 'var(--s3)', 'var(--s4)', 'var(--s5)', 'var(--s6)'];

export function isBand(column: Column): boolean {
  return column.type === 'BOOL' || column.labels !== undefined;
}

/** Height of a lane: bands are flat, curves need room. */
export function laneHeight(column: Column, compact = false): number {
  if (isBand(column)) return compact ? 26 : 34;
  return compact ? 48 : 92;
}

/** One lane: a curve with its label at the line's end, or bands with their names. */
export function Lane({
  trace,
  column,
  index,
  frame,
  top,
  height,
  limits,
  named = true,
}: {
  readonly trace: Trace;
  readonly column: Column;
  readonly index: number;
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly limits: readonly Limit[];
  readonly named?: boolean;
}) {
  const time = trace.bases[column.base] as Float64Array;
  const x = scaleLinear([frame.from, frame.until], [frame.left, frame.left + frame.width]);
  // A run that goes on has not come to the end of the frame yet.
  const shown = { ...frame, until: Math.min(frame.until, trace.until) };
  if (isBand(column))
    return <Bands column={column} time={time} frame={shown} top={top} height={height} x={x} tone={tones[index % tones.length] as string} />;
  const own = limits.filter((limit) => limit.slot === column.slot);
  const y = laneScale(trace, column, frame, top, height, limits);
  const [low, high] = y.domain() as [number, number];
  const tone = tones[index % tones.length];
  const ticks = ticksOf(y);
  const words = figures(ticks);
  return (
    <g>
      {ticks.map((tick, at) => (
        <g key={tick}>
          <line x1={frame.left} x2={frame.left + frame.width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeDasharray="1 4" />
          <text x={frame.left + 4} y={y(tick) - 2} className="figure" fontSize={9.5} fill="var(--soft)">
            {words[at]}
          </text>
        </g>
      ))}
      {own.map((limit) => (
        <g key={`${limit.label}${limit.value}`}>
          <line x1={frame.left} x2={frame.left + frame.width} y1={y(limit.value)} y2={y(limit.value)} stroke="var(--ink)" strokeWidth={1.3} />
          <text x={frame.left + 40} y={y(limit.value) + (limit.value >= (low + high) / 2 ? 11 : -3)} fontSize={10.5} fill="var(--ink)">
            {limit.label}
          </text>
        </g>
      ))}
      <Curve time={time} column={column} frame={shown} x={x} y={y} tone={tone ?? 'var(--ink)'} label={named ? top : undefined} />
    </g>
  );
}

/** Two or three values beside a lane, none over another. */
function ticksOf(y: ScaleLinear<number, number>): number[] {
  const ticks = y.ticks(2);
  const [first, second] = ticks;
  if (first === undefined || second === undefined || Math.abs(y(first) - y(second)) >= 12) return ticks;
  return [first, ticks.at(-1) ?? first];
}

interface CurveProps {
  readonly time: Float64Array;
  readonly column: Column;
  readonly frame: LaneFrame;
  readonly x: (t: number) => number;
  readonly y: (value: number) => number;
  readonly tone: string;
  /** Top of the lane, where its name stands at the line's end. */
  readonly label: number | undefined;
}

/** A line, or the area it fills where many rows fall on each pixel. */
function Curve({ time, column, frame, x, y, tone, label }: CurveProps) {
  const { from, until, left, width } = frame;
  const place = (px: number, py: number, index: number): string => `${index === 0 ? 'M' : 'L'}${px.toFixed(1)} ${py.toFixed(1)}`;
  const end = (points: readonly [number, number][]) =>
    label !== undefined && <EndLabel points={points} text={shortName(column)} tone={tone} right={left + width} top={label} />;
  if (isDense(time, from, until, width)) {
    const area = envelopeOf(time, column.data, from, until, x, y);
    const outline = [...area.map(({ at, high }) => [at, high] as const), ...area.map(({ at, low }) => [at, low] as const).reverse()];
    return (
      <>
        <path d={outline.map(([px, py], index) => place(px, py, index)).join('')} fill={tone} stroke={tone} strokeWidth={1} />
        {end(area.map(({ at, high }) => [at, high]))}
      </>
    );
  }
  const points = reduceCurve(time, column.data, column.between === 'held', from, until, x, y);
  return (
    <>
      <path d={points.map(([px, py], index) => place(px, py, index)).join('')} fill="none" stroke={tone} strokeWidth={1.7} strokeLinejoin="round" />
      {end(points)}
    </>
  );
}

function EndLabel({
  points,
  text,
  tone,
  right,
  top,
}: {
  readonly points: readonly [number, number][];
  readonly text: string;
  readonly tone: string;
  readonly right: number;
  readonly top: number;
}) {
  const visible = points.filter(([px]) => px <= right);
  const end = visible.at(-1);
  if (!end) return null;
  return (
    <text
      x={Math.min(end[0], right) - 4}
      y={end[1] - 5 < top + 10 ? end[1] + 13 : end[1] - 5}
      textAnchor="end"
      fontSize={11}
      fill={tone}
      stroke="var(--sheet)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

/** The end of a name that tells a signal apart: a chart's region by itself, anything else with its component. */
export function shortName(column: Column): string {
  return column.name
    .split('.')
    .slice(column.labels?.[0] === '' ? -1 : -2)
    .join('.');
}

/** From the values of a lane to heights on the sheet. */
export function laneScale(
  trace: Trace,
  column: Column,
  frame: LaneFrame,
  top: number,
  height: number,
  limits: readonly Limit[],
): ScaleLinear<number, number> {
  const own = limits.filter((limit) => limit.slot === column.slot).map((limit) => limit.value);
  return scaleLinear(extent(trace.bases[column.base] as Float64Array, column, frame, own), [top + height - 10, top + 12]);
}

function extent(time: Float64Array, column: Column, frame: LaneFrame, limits: readonly number[]): [number, number] {
  const end = Math.min(time.length, lowerBound(time, frame.until) + 1);
  let [low, high] = extremes(column.data, Math.max(0, lowerBound(time, frame.from) - 1), end);
  for (const limit of limits) [low, high] = [Math.min(low, limit), Math.max(high, limit)];
  if (!Number.isFinite(low)) return [0, 1];
  const room = high - low || Math.abs(high) || 1;
  return [low - room * 0.08, high + room * 0.08];
}

/** A letter of the mono face at the size of these words (px). */
const letterWidth = 6.7;

/** As much about an obligation as there is room for. */
function obligationWords({ from, at, outcome, margin }: Obligation, frame: LaneFrame): string {
  const end = `${outcome} at ${timeWords(at, frame.until)}`;
  const whole = `owed from ${timeWords(from, frame.until)}, ${end}`;
  const wordings = [...(margin ? [`${whole}, ${marginWords(margin)}`, `${end}, ${marginWords(margin)}`] : [whole]), end];
  return wordings.find((words) => words.length * letterWidth <= frame.width - 4) ?? end;
}

/** An obligation over the lanes: shaded from "owed from" to "until", its end in the tone of its outcome; the words stand above the lanes. */
export function ObligationShade({
  obligation,
  frame,
  top,
  height,
  label,
}: {
  readonly obligation: Obligation;
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly label: boolean;
}) {
  const x = scaleLinear([frame.from, frame.until], [frame.left, frame.left + frame.width]).clamp(true);
  const tone = { met: 'var(--pass)', broken: 'var(--fail)', open: 'var(--lack)' }[obligation.outcome];
  const [left, right, at] = [x(obligation.from), x(obligation.until), x(obligation.at)];
  const words = obligationWords(obligation, frame);
  const start = Math.max(frame.left + 2, Math.min(left, frame.left + frame.width - words.length * letterWidth));
  return (
    <g>
      <rect x={left} y={top} width={Math.max(1.5, right - left)} height={height} fill={tone} fillOpacity={0.13} />
      <line x1={at} x2={at} y1={top} y2={top + height} stroke={tone} strokeWidth={1.6} />
      {label && (
        <text x={start} y={top - 5} fontSize={11} fill={tone} fontFamily="var(--font-mono)">
          {words}
        </text>
      )}
    </g>
  );
}

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
