'use client';
import { type DragEvent, type ReactNode, type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { timeWords } from '@/core/wording';
import { figureRoom } from '../lane/Lane';
import type { LaneFrame } from '../lane/laneFrame';
import { TimeAxis } from '../lane/TimeAxis';
import { type Marks, usePlotGestures } from './usePlotGestures';
import type { Window } from './window';

/** One lane of a sheet, with what stands beside it. */
export interface SheetLane {
  readonly key: string;
  readonly height: number;
  /** Of its label where that stands above it (px); a line with a value below it if nothing is said. */
  readonly labelHeight?: number;
  readonly draw: (frame: LaneFrame, top: number) => ReactNode;
  /** @param at the instant whose values are read (s) */
  readonly label: (at: number, marks: Marks) => ReactNode;
}

/** Where the pointer and the two cursors stand on a sheet (s). */
export interface SheetCursors {
  readonly pointer: number | undefined;
  readonly marks: Marks;
  readonly setPointer: (t: number | undefined) => void;
  readonly setMarks: (change: (before: Marks) => Marks) => void;
}

interface LaneSheetProps {
  readonly label: string;
  readonly lanes: readonly SheetLane[];
  readonly view: Window;
  readonly whole: Window;
  readonly setView: (view: Window) => void;
  readonly cursors: SheetCursors;
  /** Room for the words at the right of the lanes (px). */
  readonly right: number;
  /** Room above the lanes for words (px). */
  readonly head?: number;
  /** Drawn below the lanes, and over them. */
  readonly under?: (frame: LaneFrame, top: number, height: number) => ReactNode;
  readonly over?: (frame: LaneFrame, top: number, height: number) => ReactNode;
  /** A signal was dropped on a lane. */
  readonly join?: (name: string, lane: string) => void;
}

/** Beside the lanes; on a narrow screen their labels stand above them. */
const [labelWidth, lineWithValue, narrowest] = [168, 42, 600];
/** Below the lanes: the times, and the letters of the cursors. */
const foot = 36;
/** What a dragged signal is called by in the browser's data. */
export const signalData = 'application/x-signal';

export function useCursors(): SheetCursors {
  const [pointer, setPointer] = useState<number>();
  const [marks, setMarks] = useState<Marks>({});
  return { pointer, marks, setPointer, setMarks };
}

/** Lanes over one time axis: the wheel zooms at the pointer and dragging moves all of them, A and B set two cursors, and a signal dropped on another shares its lane. */
export function LaneSheet({ label, lanes, view, whole, setView, cursors, right, head = 0, under, over, join }: LaneSheetProps) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const isNarrow = width < narrowest;
  const beside = isNarrow ? 0 : labelWidth;
  const drawn = Math.max(80, width - beside - figureRoom - right - 2);
  // The same as long as nothing moves, so that lanes need not be drawn again while the pointer goes over them.
  const frame = useMemo(() => ({ from: view.from, until: view.until, left: figureRoom, width: drawn }), [view.from, view.until, drawn]);
  const above = ({ labelHeight = lineWithValue }: SheetLane): number => (isNarrow ? labelHeight : 0);
  const { tops, total } = stacked(lanes, head, above);
  const { pointer, marks, setPointer, setMarks } = cursors;
  usePlotGestures(box, { left: beside + figureRoom, view, whole, frameWidth: frame.width, setView, setPointer, setMarks });
  const dropping = useDropping(box, tops, lanes, join);
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden border-rule border-t" {...dropping.handlers}>
      <div className="relative" style={{ height: total + foot }}>
        <svg
          className="absolute top-0 select-none bg-sheet"
          style={{ left: beside, cursor: 'crosshair' }}
          width={Math.max(0, width - beside)}
          height={total + foot}
          role="img"
          aria-label={label}
        >
          {under?.(frame, head, total - head)}
          {lanes.map((lane, index) => (
            <g key={lane.key}>
              {lane.draw(frame, (tops[index] as number) + above(lane))}
              <line x1={0} x2={width} y1={endOf(tops, index, total)} y2={endOf(tops, index, total)} stroke="var(--rule)" />
            </g>
          ))}
          {over?.(frame, head, total - head)}
          <Cursors frame={frame} top={head} bottom={total} marks={marks} pointer={pointer} />
          <TimeAxis frame={frame} top={total} />
        </svg>
        {lanes.map((lane, index) => (
          <div
            key={lane.key}
            data-lane={lane.key}
            className={`absolute left-0 overflow-hidden py-1 pr-2 ${dropping.over === lane.key ? 'bg-tint' : ''} ${isNarrow ? 'pointer-events-none flex gap-3 pl-1 [&_button]:pointer-events-auto' : 'border-rule border-b'}`}
            style={{
              top: tops[index],
              width: isNarrow ? '100%' : labelWidth,
              height: isNarrow ? above(lane) : endOf(tops, index, total) - (tops[index] as number),
            }}
          >
            {lane.label(pointer ?? marks.a ?? view.from, marks)}
          </div>
        ))}
      </div>
    </div>
  );
}

/** The cursors in words, beside what can be done with the sheet. */
export function CursorWords({ cursors: { pointer, marks }, view }: { readonly cursors: SheetCursors; readonly view: Window }) {
  const { a, b } = marks;
  return (
    <span className="figure">
      at {timeWords(pointer ?? a ?? view.from)}
      {a !== undefined && ` · A ${timeWords(a)}`}
      {b !== undefined && ` · B ${timeWords(b)}`}
      {a !== undefined && b !== undefined && ` · B − A ${timeWords(b - a)}`}
    </span>
  );
}

/** Where each lane begins, one below the other, and where the last one ends. */
function stacked(
  lanes: readonly SheetLane[],
  head: number,
  above: (lane: SheetLane) => number,
): { readonly tops: readonly number[]; readonly total: number } {
  let total = head;
  const tops = lanes.map((lane) => {
    const top = total;
    total += lane.height + above(lane);
    return top;
  });
  return { tops, total };
}

function endOf(tops: readonly number[], index: number, total: number): number {
  return tops[index + 1] ?? total;
}

/** Which lane a signal is dragged over; it joins that lane where it is let go. */
function useDropping(
  box: RefObject<HTMLDivElement | null>,
  tops: readonly number[],
  lanes: readonly SheetLane[],
  join: ((name: string, lane: string) => void) | undefined,
) {
  const [over, setOver] = useState<string>();
  if (!join) return { over, handlers: {} };
  const laneAt = (event: DragEvent): string | undefined => {
    const element = box.current;
    if (!element) return undefined;
    const y = event.clientY - element.getBoundingClientRect().top + element.scrollTop;
    return lanes[tops.findLastIndex((top) => top <= y)]?.key;
  };
  const isSignal = (event: DragEvent): boolean => event.dataTransfer.types.includes(signalData);
  return {
    over,
    handlers: {
      onDragOver: (event: DragEvent): void => {
        if (!isSignal(event)) return;
        event.preventDefault();
        setOver(laneAt(event));
      },
      onDragLeave: (): void => setOver(undefined),
      onDrop: (event: DragEvent): void => {
        const lane = laneAt(event);
        setOver(undefined);
        if (!isSignal(event) || lane === undefined) return;
        event.preventDefault();
        join(event.dataTransfer.getData(signalData), lane);
      },
    },
  };
}

interface CursorsProps {
  readonly frame: LaneFrame;
  readonly top: number;
  readonly bottom: number;
  readonly marks: Marks;
  readonly pointer: number | undefined;
}

function Cursors({ frame, top, bottom, marks, pointer }: CursorsProps) {
  const x = (t: number): number => frame.left + ((t - frame.from) / (frame.until - frame.from)) * frame.width;
  const isSeen = (t: number | undefined): t is number => t !== undefined && t >= frame.from && t <= frame.until;
  return (
    <>
      {(['a', 'b'] as const).map((mark) => {
        const t = marks[mark];
        return isSeen(t) ? (
          <g key={mark}>
            <line x1={x(t)} x2={x(t)} y1={top} y2={bottom + 18} stroke="var(--ink)" />
            <text x={x(t)} y={bottom + 30} textAnchor="middle" fontSize={11} fontWeight={700} fill="var(--ink)">
              {mark.toUpperCase()}
            </text>
          </g>
        ) : null;
      })}
      {isSeen(pointer) && <line x1={x(pointer)} x2={x(pointer)} y1={top} y2={bottom} stroke="var(--ink)" strokeDasharray="2 3" />}
    </>
  );
}

/** Width of an element in pixels, as it is now. */
function useWidth(box: RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(900);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, [box]);
  return width;
}
