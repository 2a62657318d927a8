'use client';
import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { memo } from 'react';
import type { Column, Trace } from '@/core/trace';
import { figures } from '@/core/wording';
import { extremes } from '../pyramid';
import { envelopeOf, isDense, lowerBound, reduceCurve, valueAt } from '../reduce';
import { Bands } from './Bands';
import { type LaneLabel, LaneLabels, labelSpacing } from './LaneLabels';
import type { LaneFrame } from './laneFrame';

/** A limit drawn into a lane. */
export interface Limit {
  readonly slot: number;
  readonly value: number;
  readonly label: string;
}

/** One signal of a trace in a lane. */
export interface LaneCurve {
  readonly trace: Trace;
  readonly column: Column;
  readonly tone: string;
  /** What stands at the line's end; nothing where the lane is named elsewhere. */
  readonly name?: string;
  /** Of the stroke, where the tone says something else. */
  readonly dash?: string;
}

/** Room for the figures at the left of a lane (px). */
export const figureRoom = 50;

const tones = ['var(--s1)', 'var(--s2)', 'var(--s3)', 'var(--s4)', 'var(--s5)', 'var(--s6)'];

/** The tone of the n-th signal of a plot. */
export function toneOf(index: number): string {
  return tones[index % tones.length] as string;
}

export function isBand(column: Column): boolean {
  return column.type === 'BOOL' || column.labels !== undefined;
}

/** Height of a lane: bands are flat, one below the other; curves share their room, which grows where there are many labels. */
export function laneHeight(columns: readonly Column[], labels: number, compact = false): number {
  const bands = columns.filter(isBand).length;
  if (bands === columns.length) return Math.max(1, bands) * (compact ? 26 : 40);
  return Math.max(compact ? 48 : 92, labels * labelSpacing + 4);
}

interface LaneProps {
  readonly curves: readonly LaneCurve[];
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly limits: readonly Limit[];
  /** Room for labels at the right (px). */
  readonly right: number;
}

/** One lane: curves over one scale, with their figures at the left and their names and limits at the right, or bands with their names. Nothing is written over a curve. */
export const Lane = memo(function Lane({ curves, frame, top, height, limits, right }: LaneProps) {
  const x = scaleLinear([frame.from, frame.until], [frame.left, frame.left + frame.width]);
  if (curves.every(({ column }) => isBand(column))) return <BandRows curves={curves} frame={frame} top={top} height={height} x={x} />;
  const own = ownLimits(curves, limits);
  const y = laneScale(curves, frame, top, height, limits);
  return (
    <g>
      <ScaleFigures y={y} frame={frame} />
      {own.map(({ value }) => (
        <line key={value} x1={frame.left} x2={frame.left + frame.width} y1={y(value)} y2={y(value)} stroke="var(--ink)" strokeWidth={1.3} />
      ))}
      {curves.map((curve) => (
        <Curve key={`${curve.name} ${curve.column.slot} ${curve.tone}`} curve={curve} frame={reached(frame, curve.trace)} x={x} y={y} />
      ))}
      <LaneLabels labels={labelsOf(curves, own, frame, y)} at={frame.left + frame.width} room={right} top={top} bottom={top + height} />
    </g>
  );
});

/** A run that goes on has not come to the end of the frame yet. */
function reached(frame: LaneFrame, trace: Trace): LaneFrame {
  return { ...frame, until: Math.min(frame.until, trace.until) };
}

function BandRows({
  curves,
  frame,
  top,
  height,
  x,
}: Pick<LaneProps, 'curves' | 'frame' | 'top' | 'height'> & { readonly x: ScaleLinear<number, number> }) {
  const each = height / curves.length;
  return curves.map(({ trace, column, tone }, index) => (
    <Bands
      key={`${column.slot} ${tone}`}
      column={column}
      time={trace.bases[column.base] as Float64Array}
      frame={reached(frame, trace)}
      top={top + index * each}
      height={each}
      x={x}
      tone={tone}
    />
  ));
}

/** Limits of the signals of a lane; those at one value are one. */
function ownLimits(curves: readonly LaneCurve[], limits: readonly Limit[]): Limit[] {
  const own: Limit[] = [];
  for (const limit of limits) {
    if (!curves.some(({ column }) => column.slot === limit.slot)) continue;
    const same = own.findIndex(({ value }) => value === limit.value);
    const before = own[same];
    if (!before) own.push(limit);
    else if (!before.label.includes(limit.label)) own[same] = { ...before, label: `${before.label}, ${limit.label.split(' · ').at(-1)}` };
  }
  return own;
}

function labelsOf(curves: readonly LaneCurve[], limits: readonly Limit[], frame: LaneFrame, y: (value: number) => number): LaneLabel[] {
  const ofLimits = limits.map(({ label, value }) => ({ text: label, tone: 'var(--ink)', y: y(value) }));
  const ofCurves = curves.flatMap(({ trace, column, tone, name }) => {
    const until = Math.min(frame.until, trace.until);
    const last = valueAt(trace.bases[column.base] as Float64Array, column.data, column.between === 'held', until);
    return name === undefined || Number.isNaN(last) ? [] : [{ text: name, tone, y: y(last) }];
  });
  return [...ofLimits, ...ofCurves];
}

/** Some round values beside a lane, none over another, each with a faint line through the lane. */
function ScaleFigures({ y, frame }: { readonly y: ScaleLinear<number, number>; readonly frame: LaneFrame }) {
  const ticks = ticksOf(y);
  const words = figures(ticks);
  return ticks.map((tick, at) => (
    <g key={tick}>
      <line x1={frame.left} x2={frame.left + frame.width} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeDasharray="1 4" />
      <text x={frame.left - 5} y={y(tick) + 3.4} textAnchor="end" fontFamily="var(--font-mono)" fontSize={9.5} fill="var(--soft)">
        {words[at]}
      </text>
    </g>
  ));
}

function ticksOf(y: ScaleLinear<number, number>): number[] {
  const [bottom = 0, top = 0] = y.range();
  const ticks = y.ticks(Math.max(2, (bottom - top) / 40));
  const [first, second] = ticks;
  if (first === undefined || second === undefined || Math.abs(y(first) - y(second)) >= 12) return ticks;
  return [first, ticks.at(-1) ?? first];
}

interface CurveProps {
  readonly curve: LaneCurve;
  readonly frame: LaneFrame;
  readonly x: (t: number) => number;
  readonly y: (value: number) => number;
}

/** A line, or the area it fills where many rows fall on each pixel. */
function Curve({ curve: { trace, column, tone, dash }, frame: { from, until, width }, x, y }: CurveProps) {
  const time = trace.bases[column.base] as Float64Array;
  const place = (px: number, py: number, index: number): string => `${index === 0 ? 'M' : 'L'}${px.toFixed(1)} ${py.toFixed(1)}`;
  if (isDense(time, from, until, width)) {
    const area = envelopeOf(time, column.data, from, until, x, y);
    const outline = [...area.map(({ at, high }) => [at, high] as const), ...area.map(({ at, low }) => [at, low] as const).reverse()];
    return <path d={outline.map(([px, py], index) => place(px, py, index)).join('')} fill={tone} stroke={tone} strokeWidth={1} />;
  }
  const points = reduceCurve(time, column.data, column.between === 'held', from, until, x, y);
  return (
    <path
      d={points.map(([px, py], index) => place(px, py, index)).join('')}
      fill="none"
      stroke={tone}
      strokeWidth={1.7}
      strokeLinejoin="round"
      strokeDasharray={dash}
    />
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
  curves: readonly Pick<LaneCurve, 'trace' | 'column'>[],
  frame: LaneFrame,
  top: number,
  height: number,
  limits: readonly Limit[],
): ScaleLinear<number, number> {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (least: number, most: number): void => {
    [low, high] = [Math.min(low, least), Math.max(high, most)];
  };
  for (const { trace, column } of curves) {
    const time = trace.bases[column.base] as Float64Array;
    const end = Math.min(time.length, lowerBound(time, frame.until) + 1);
    take(...extremes(column.data, Math.max(0, lowerBound(time, frame.from) - 1), end));
    for (const { slot, value } of limits) if (slot === column.slot) take(value, value);
  }
  if (!Number.isFinite(low)) [low, high] = [0, 1];
  const room = high - low || Math.abs(high) || 1;
  return scaleLinear([low - room * 0.08, high + room * 0.08], [top + height - 6, top + 6]);
}
