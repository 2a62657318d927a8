'use client';
import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { type KeyboardEvent, type PointerEvent, useId, useRef, useState } from 'react';
import type { Handle } from '@/core/cases';
import type { EditedInput } from '@/core/project';
import { figure } from '@/core/wording';

/** The stretch of time that the lanes show (s). */
export interface LaneWindow {
  readonly from: number;
  readonly until: number;
}

/** A place in a lane. */
export interface At {
  readonly seconds: number;
  readonly value: number;
}

interface InputLaneProps {
  readonly input: EditedInput;
  readonly window: LaneWindow;
  /** What it did in the run, where a script may move it as well. */
  readonly ran: readonly At[] | undefined;
  readonly chosen: Handle | undefined;
  readonly choose: (handle: Handle) => void;
  /** @param movement by which it is moved, as a number of its own; by a key it has none */
  readonly move: (handle: Handle, to: At, movement?: number) => void;
  readonly add: (at: At) => void;
}

export const [labelWidth, laneWidth] = [150, 690];
const heights = { truth: 44, number: 88 };
const pad = 10;

/** One free input over time, with the points of its course to be taken hold of. */
export function InputLane({ input, window, ran, chosen, choose, move, add }: InputLaneProps) {
  const sheet = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ readonly handle: Handle; readonly at: At; readonly movement: number }>();
  const lane = laneOf(input, window);
  const { x, height } = lane;
  const at = (event: { clientX: number; clientY: number }): At => placeIn(lane, input, sheet.current?.getBoundingClientRect(), event);
  const drag = (event: PointerEvent): void => {
    if (!held) return;
    // Of a truth the time alone is dragged: up and down there is nothing between its two values.
    const to = lane.isTruth ? { ...at(event), value: held.handle.value } : at(event);
    if (to.seconds === held.at.seconds && to.value === held.at.value) return;
    setHeld({ ...held, at: to });
    move(held.handle, to, held.movement);
  };
  const hold = (handle: Handle) => (event: PointerEvent) => {
    sheet.current?.setPointerCapture(event.pointerId);
    setHeld({ handle, at: handle, movement: event.timeStamp });
    choose(handle);
  };
  const isSame = (one: Handle, other: Handle | undefined): boolean => one.piece === other?.piece && one.point === other.point;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot be drawn in
    <svg
      ref={sheet}
      viewBox={`0 0 ${labelWidth + laneWidth} ${height}`}
      className="w-full touch-none select-none border-rule border-b"
      role="group"
      aria-label={`Course of ${input.name}`}
      onPointerMove={drag}
      onPointerUp={() => setHeld(undefined)}
      onPointerCancel={() => setHeld(undefined)}
      onDoubleClick={(event) => add(at(event))}
    >
      <rect x={labelWidth} y={0} width={laneWidth} height={height} fill="var(--sheet)" />
      <LaneWords input={input} lane={lane} />
      <Course input={input} lane={lane} ran={ran} />
      {input.handles
        .filter(({ seconds }) => seconds >= window.from && seconds <= window.until)
        .map((handle) => (
          <Point
            key={`${handle.piece} ${handle.point}`}
            handle={handle}
            place={isSame(handle, held?.handle) ? held?.at : undefined}
            isChosen={isSame(handle, chosen)}
            input={input}
            lane={lane}
            hold={hold(handle)}
            choose={() => choose(handle)}
            move={(to) => move(handle, to)}
          />
        ))}
      {held && (
        <text
          x={Math.min(x(held.at.seconds) + 10, labelWidth + laneWidth - 120)}
          y={pad + 4}
          fontSize={11.5}
          fill="var(--ink)"
          fontFamily="var(--font-mono)"
        >
          {figure(held.at.seconds, 6)} s{lane.isTruth ? '' : `, ${valueText(input, held.at.value)}`}
        </text>
      )}
    </svg>
  );
}

/** The course itself, or where the input stays if the case leaves it alone. */
function Course({ input: { points, start }, lane: { x, y, height }, ran }: Pick<InputLaneProps, 'input' | 'ran'> & { readonly lane: Lane }) {
  const clip = useId();
  const path = points.map(([t, value], index) => `${index === 0 ? 'M' : 'L'}${x(t).toFixed(1)} ${y(value).toFixed(1)}`).join('');
  return (
    <>
      <clipPath id={clip}>
        <rect x={labelWidth} y={0} width={laneWidth} height={height} />
      </clipPath>
      <path
        clipPath={`url(#${clip})`}
        d={path || `M${labelWidth} ${y(start)}H${labelWidth + laneWidth}`}
        fill="none"
        stroke="var(--s1)"
        strokeWidth={1.8}
        strokeOpacity={path ? 1 : 0.35}
        strokeDasharray={path ? undefined : '4 4'}
      />
      {ran && (
        <path
          clipPath={`url(#${clip})`}
          d={ran.map(({ seconds, value }, index) => `${index === 0 ? 'M' : 'L'}${x(seconds).toFixed(1)} ${y(value).toFixed(1)}`).join('')}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.2}
        />
      )}
    </>
  );
}

/** Scales of a lane. */
interface Lane {
  readonly isTruth: boolean;
  /** Its values have names: there is nothing between two of them. */
  readonly isNamed: boolean;
  readonly height: number;
  readonly window: LaneWindow;
  readonly low: number;
  readonly high: number;
  readonly x: ScaleLinear<number, number>;
  readonly y: ScaleLinear<number, number>;
}

function laneOf(input: EditedInput, window: LaneWindow): Lane {
  const isTruth = input.type === 'BOOL';
  const height = isTruth ? heights.truth : heights.number;
  const [low, high] = spanOf(input);
  return {
    isTruth,
    isNamed: input.labels !== undefined,
    height,
    window,
    low,
    high,
    x: scaleLinear([window.from, window.until], [labelWidth, labelWidth + laneWidth]),
    y: scaleLinear([low, high], [height - pad, pad]),
  };
}

/** Where the pointer is, rounded to what a person would write. */
function placeIn(
  { x, y, window, low, high, isTruth }: Lane,
  input: EditedInput,
  box: DOMRect | undefined,
  pointer: { clientX: number; clientY: number },
): At {
  if (!box) return { seconds: 0, value: 0 };
  const zoom = (labelWidth + laneWidth) / box.width;
  const seconds = Math.max(window.from, Math.min(window.until, x.invert((pointer.clientX - box.left) * zoom)));
  const value = Math.max(low, Math.min(high, y.invert((pointer.clientY - box.top) * zoom)));
  return {
    seconds: snapped(seconds, (window.until - window.from) / laneWidth),
    value: isTruth ? Number(value >= 0.5) : limited(input, input.labels ? Math.round(value) : snapped(value, (high - low) / 80)),
  };
}

/** Names of values that find room beside a lane, one below the other. */
const mostNames = 7;

/** A value as a person says it. */
function valueText({ labels, unit }: EditedInput, value: number): string {
  return labels?.[value] ?? `${figure(value, 5)} ${unit}`.trim();
}

function LaneWords({ input: { name, about, type, unit, labels }, lane: { low, high, y } }: { readonly input: EditedInput; readonly lane: Lane }) {
  const isNamed = labels !== undefined && labels.length <= mostNames;
  return (
    <>
      <text x={0} y={18} fontSize={12.5} fill="var(--ink)" fontWeight={600}>
        {name} <title>{about}</title>
      </text>
      <text x={0} y={33} fontSize={11} fill="var(--soft)" fontFamily="var(--font-mono)">
        {type === 'BOOL' || isNamed ? '' : labels ? `${labels[0]} … ${labels.at(-1)}` : `${figure(low, 4)} … ${figure(high, 4)} ${unit}`}
      </text>
      {isNamed &&
        labels.map((label, number) => (
          <text key={label} x={labelWidth - 6} y={y(number) + 3} fontSize={10} textAnchor="end" fill="var(--soft)" fontFamily="var(--font-mono)">
            {label}
          </text>
        ))}
    </>
  );
}

interface PointProps {
  readonly handle: Handle;
  /** Where it is held at the moment. */
  readonly place: At | undefined;
  readonly isChosen: boolean;
  readonly input: EditedInput;
  readonly lane: Lane;
  readonly hold: (event: PointerEvent) => void;
  readonly choose: () => void;
  readonly move: (to: At) => void;
}

/** A point of the course: dragged, or moved with the arrow keys. */
function Point({ handle, place, isChosen, input, lane, hold, choose, move }: PointProps) {
  const seconds = place && handle.movesTime ? place.seconds : handle.seconds;
  const value = place && handle.movesValue ? place.value : handle.value;
  return (
    <circle
      cx={lane.x(seconds)}
      cy={lane.y(value)}
      r={isChosen || place ? 7 : 5.5}
      fill={isChosen ? 'var(--ink)' : 'var(--sheet)'}
      stroke="var(--ink)"
      strokeWidth={1.6}
      tabIndex={0}
      role="slider"
      aria-label={`${input.name} at ${figure(handle.seconds, 6)} s`}
      aria-valuenow={handle.value}
      aria-valuetext={`${valueText(input, handle.value)} at ${figure(handle.seconds, 6)} s`}
      style={{ cursor: handle.movesTime ? (handle.movesValue ? 'move' : 'ew-resize') : 'ns-resize' }}
      onPointerDown={hold}
      onFocus={choose}
      onKeyDown={(event) => {
        const to = byKey(event, handle, lane);
        if (!to) return;
        event.preventDefault();
        move({ seconds: to.seconds, value: limited(input, to.value) });
      }}
    />
  );
}

/** Arrow keys move a point by a hundredth of the lane. */
function byKey(event: KeyboardEvent, { seconds, value }: Handle, lane: Lane): At | undefined {
  const span = lane.window.until - lane.window.from;
  const [dt, dv] = [
    snapped(span / 100, span / 1000),
    lane.isTruth || lane.isNamed ? 1 : snapped((lane.high - lane.low) / 50, (lane.high - lane.low) / 500),
  ];
  switch (event.key) {
    case 'ArrowLeft':
      return { seconds: rounded(seconds - dt), value };
    case 'ArrowRight':
      return { seconds: rounded(seconds + dt), value };
    case 'ArrowUp':
      return { seconds, value: rounded(Math.min(lane.high, value + dv)) };
    case 'ArrowDown':
      return { seconds, value: rounded(Math.max(lane.low, value - dv)) };
    default:
      return undefined;
  }
}

/** Room for the course: the limits of the face where it has both, else what the course needs and a little more. */
function spanOf({ type, min, max, start, points }: EditedInput): readonly [number, number] {
  if (type === 'BOOL') return [0, 1];
  if (min !== undefined && max !== undefined) return [min, max];
  const values = [start, ...points.map(([, value]) => value)];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const more = (high - low) * 0.3 || Math.abs(high) * 0.5 || 1;
  return [min ?? low - more, max ?? high + more];
}

function limited({ min, max }: EditedInput, value: number): number {
  return Math.max(min ?? Number.NEGATIVE_INFINITY, Math.min(max ?? Number.POSITIVE_INFINITY, value));
}

/** A number on the round grid that is not finer than a step. */
function snapped(value: number, step: number): number {
  const ten = 10 ** Math.floor(Math.log10(step));
  const grid = ([1, 2, 5, 10].find((one) => one * ten >= step) ?? 10) * ten;
  return rounded(Math.round(value / grid) * grid);
}

function rounded(value: number): number {
  return Number(value.toPrecision(9));
}
