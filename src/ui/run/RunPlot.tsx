'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { criterionSlots } from '@/core/criteria';
import type { RunObligation } from '@/core/evidence';
import type { Column } from '@/core/trace';
import { figure, timeWords } from '@/core/wording';
import type { Replayed } from '../engine/engine';
import { criterionLimits } from '../plot/criterionSignals';
import { isBand, Lane, laneHeight, ObligationShade, shortName, TimeAxis } from '../plot/LanePlot';
import { valueAt } from '../plot/reduce';
import { SignalPicker } from './SignalPicker';
import { type Window, windowAround, zoomed } from './window';

const labelWidth = 168;
/** Room above the lanes for the words of the chosen obligation. */
const head = 20;

/** Cursors that were set (s). */
interface Marks {
  readonly a?: number;
  readonly b?: number;
}

/** Slots that people added to the lanes, or dropped from them. */
interface ChosenLanes {
  readonly added: readonly number[];
  readonly dropped: readonly number[];
}

/** Lanes over one time axis, with zoom, cursors, limits and the chosen obligation. */
export function RunPlot({ replayed, chosen }: { readonly replayed: Replayed; readonly chosen: RunObligation | undefined }) {
  const { trace, order } = replayed;
  const whole = useMemo(() => ({ from: trace.from, until: trace.until }), [trace]);
  const [view, setView] = useState<Window>(() => (chosen ? windowAround(chosen.obligation, whole) : whole));
  const [lanes, changeLanes] = useState<ChosenLanes>({ added: [], dropped: [] });
  const [pointer, setPointer] = useState<number>();
  const [marks, setMarks] = useState<Marks>({});
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  useEffect(() => {
    if (chosen) setView(windowAround(chosen.obligation, whole));
  }, [chosen, whole]);
  const watched = order.watched.find((one) => one.requirement === chosen?.requirement && one.name === chosen.criterion);
  const columns = useMemo(() => chooseColumns(replayed, watched ? criterionSlots(watched.criterion) : [], lanes), [replayed, watched, lanes]);
  const limits = watched && chosen ? criterionLimits(watched.criterion, chosen.requirement) : [];
  const frame = { ...view, left: 0, width: Math.max(100, width - labelWidth - 2) };
  const tops = columns.map((_, index) => columns.slice(0, index).reduce((sum, one) => sum + laneHeight(one), head));
  const total = columns.reduce((sum, one) => sum + laneHeight(one), head);
  const timeAt = (clientX: number): number => {
    const left = (box.current?.getBoundingClientRect().left ?? 0) + labelWidth;
    return view.from + ((clientX - left) / frame.width) * (view.until - view.from);
  };
  usePlotGestures(box, { view, whole, frameWidth: frame.width, setView, setPointer, setMarks, timeAt });

  const readAt = pointer ?? marks.a ?? view.from;
  return (
    <>
      <div className="mb-1 flex items-center gap-3 text-[13px] text-soft">
        <SignalPicker
          columns={trace.columns}
          shown={columns}
          add={(slot) => changeLanes(({ added, dropped }) => ({ added: [...added, slot], dropped: dropped.filter((one) => one !== slot) }))}
        />
        <CursorWords at={readAt} marks={marks} />
        <button type="button" className="ml-auto underline decoration-rule" onClick={() => setView(whole)}>
          whole run
        </button>
      </div>
      <div ref={box} className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden border-rule border-t">
        <div className="relative" style={{ height: total + 24 }}>
          {columns.map((column, index) => (
            <LaneLabel
              key={column.slot}
              column={column}
              top={tops[index] as number}
              trace={trace}
              at={readAt}
              marks={marks}
              drop={() =>
                changeLanes(({ added, dropped }) => ({ added: added.filter((one) => one !== column.slot), dropped: [...dropped, column.slot] }))
              }
            />
          ))}
          <svg
            className="absolute top-0 select-none bg-sheet"
            style={{ left: labelWidth, cursor: 'crosshair' }}
            width={frame.width}
            height={total + 24}
            role="img"
            aria-label="Lanes of the run"
          >
            {chosen && <ObligationShade obligation={chosen.obligation} frame={frame} top={head} height={total - head} label={false} />}
            {columns.map((column, index) => (
              <g key={column.slot}>
                <Lane
                  trace={trace}
                  column={column}
                  index={index}
                  frame={frame}
                  top={tops[index] as number}
                  height={laneHeight(column)}
                  limits={limits}
                />
                <line
                  x1={0}
                  x2={frame.width}
                  y1={(tops[index] as number) + laneHeight(column)}
                  y2={(tops[index] as number) + laneHeight(column)}
                  stroke="var(--rule)"
                />
              </g>
            ))}
            {chosen && <ObligationShade obligation={chosen.obligation} frame={frame} top={head} height={total - head} label />}
            <Cursors frame={frame} bottom={total} marks={marks} pointer={pointer} />
            <TimeAxis frame={frame} top={total} />
          </svg>
        </div>
      </div>
    </>
  );
}

function CursorWords({ at, marks: { a, b } }: { readonly at: number; readonly marks: Marks }) {
  return (
    <span className="figure">
      at {timeWords(at)}
      {a !== undefined && ` · A ${timeWords(a)}`}
      {b !== undefined && ` · B ${timeWords(b)}`}
      {a !== undefined && b !== undefined && ` · B − A ${timeWords(b - a)}`}
    </span>
  );
}

interface CursorsProps {
  readonly frame: Window & { readonly width: number };
  readonly bottom: number;
  readonly marks: Marks;
  readonly pointer: number | undefined;
}

function Cursors({ frame, bottom, marks, pointer }: CursorsProps) {
  const x = (t: number): number => ((t - frame.from) / (frame.until - frame.from)) * frame.width;
  return (
    <>
      {(['a', 'b'] as const).map((mark) => {
        const t = marks[mark];
        return t === undefined ? null : (
          <g key={mark}>
            <line x1={x(t)} x2={x(t)} y1={head} y2={bottom} stroke="var(--ink)" />
            <text x={x(t) + 3} y={bottom - 4} fontSize={11} fontWeight={700} fill="var(--ink)">
              {mark.toUpperCase()}
            </text>
          </g>
        );
      })}
      {pointer !== undefined && <line x1={x(pointer)} x2={x(pointer)} y1={head} y2={bottom} stroke="var(--ink)" strokeDasharray="2 3" />}
    </>
  );
}

/** What to show first: the signals of the chosen criterion, then the charts' regions and the free inputs, then what was added. */
function chooseColumns({ trace, order }: Replayed, criterion: readonly number[], { added, dropped }: ChosenLanes): Column[] {
  const regions = order.experiment.plan.regions.map((region) => region.slot);
  const inputs = order.experiment.plan.inputs.map((input) => input.slot);
  const rest =
    criterion.length > 0
      ? []
      : trace.columns
          .filter((column) => !isBand(column))
          .slice(0, 3)
          .map((column) => column.slot);
  const alive = (slot: number): boolean => {
    const data = trace.columns.find((column) => column.slot === slot)?.data;
    return data?.some((value) => value !== data[0]) ?? false;
  };
  const wanted = [...new Set([...criterion, ...added, ...rest, ...[...regions, ...inputs].filter(alive)])].filter((slot) => !dropped.includes(slot));
  return wanted.flatMap((slot) => trace.columns.find((column) => column.slot === slot) ?? []);
}

function LaneLabel({
  column,
  top,
  trace,
  at,
  marks,
  drop,
}: {
  readonly column: Column;
  readonly top: number;
  readonly trace: Replayed['trace'];
  readonly at: number;
  readonly marks: Marks;
  readonly drop: () => void;
}) {
  const time = trace.bases[column.base] as Float64Array;
  const read = (t: number): number => valueAt(time, column.data, column.between === 'held', t);
  const text = (value: number): string => {
    if (Number.isNaN(value)) return '—';
    if (column.type === 'BOOL') return value !== 0 ? 'TRUE' : 'FALSE';
    return column.labels ? column.labels[value] || '—' : figure(value);
  };
  const between = marks.a !== undefined && marks.b !== undefined && !isBand(column) ? `Δ ${figure(read(marks.b) - read(marks.a))}` : '';
  return (
    <div
      className="group absolute left-0 overflow-hidden border-rule border-b py-1 pr-2"
      style={{ top, width: labelWidth, height: laneHeight(column) }}
    >
      <div className="flex items-baseline gap-1 truncate text-[12.5px]" title={column.name}>
        <b className="truncate">{shortName(column)}</b>
        <span className="text-soft">{column.labels?.[0] === '' ? 'state' : column.unit}</span>
        <button
          type="button"
          aria-label={`Drop ${column.name}`}
          onClick={drop}
          className="ml-auto text-soft opacity-0 focus:opacity-100 group-hover:opacity-100"
        >
          drop
        </button>
      </div>
      <div className={`figure ${isBand(column) ? 'leading-none' : 'text-[15px]'}`}>{text(read(at))}</div>
      {between && <div className="figure text-soft">{between}</div>}
    </div>
  );
}

/** Width of an element in pixels, as it is now. */
function useWidth(box: React.RefObject<HTMLDivElement | null>): number {
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

interface Gestures {
  readonly view: Window;
  readonly whole: Window;
  readonly frameWidth: number;
  readonly setView: (view: Window) => void;
  readonly setPointer: (t: number | undefined) => void;
  readonly setMarks: (change: (before: Marks) => Marks) => void;
  readonly timeAt: (clientX: number) => number;
}

/** Wheel zooms time at the pointer, drag moves, shift-drag zooms to a span, double click fits, A and B set cursors. */
function usePlotGestures(box: React.RefObject<HTMLDivElement | null>, gestures: Gestures): void {
  const now = useRef(gestures);
  now.current = gestures;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // The pointer's place is kept here as well: a key may come before the page is drawn again.
    let hover: number | undefined;
    let drag: { readonly x: number; readonly from: number; readonly view: Window; readonly span: boolean } | undefined;
    const inside = ({ clientX, clientY }: MouseEvent): boolean => {
      const { left, right, top, bottom } = element.getBoundingClientRect();
      return clientX > left + labelWidth && clientX <= right && clientY >= top && clientY <= bottom;
    };
    const onWheel = (event: WheelEvent): void => {
      if (!inside(event)) return;
      event.preventDefault();
      const { view, whole, timeAt, setView } = now.current;
      setView(zoomed(view, whole, timeAt(event.clientX), event.deltaY > 0 ? 1.25 : 0.8));
    };
    const onDown = (event: PointerEvent): void => {
      if (!inside(event) || event.button !== 0) return;
      drag = { x: event.clientX, from: now.current.timeAt(event.clientX), view: now.current.view, span: event.shiftKey };
    };
    const onMove = (event: PointerEvent): void => {
      const { timeAt, setPointer, setView, whole, frameWidth } = now.current;
      if (drag && !drag.span) {
        const length = drag.view.until - drag.view.from;
        const moved = ((drag.x - event.clientX) / frameWidth) * length;
        const from = Math.max(whole.from, Math.min(whole.until - length, drag.view.from + moved));
        setView({ from, until: from + length });
      } else {
        hover = inside(event) ? timeAt(event.clientX) : undefined;
        setPointer(hover);
      }
    };
    const onUp = (event: PointerEvent): void => {
      if (drag?.span) {
        const to = now.current.timeAt(event.clientX);
        if (Math.abs(event.clientX - drag.x) > 4)
          now.current.setView({
            from: Math.max(now.current.whole.from, Math.min(drag.from, to)),
            until: Math.min(now.current.whole.until, Math.max(drag.from, to)),
          });
      }
      drag = undefined;
    };
    const onLeave = (): void => {
      hover = undefined;
      now.current.setPointer(undefined);
    };
    const onDouble = (event: MouseEvent): void => {
      if (inside(event)) now.current.setView(now.current.whole);
    };
    const onKey = (event: KeyboardEvent): void => {
      const key = event.key.toLowerCase();
      if (hover === undefined || event.ctrlKey || event.target instanceof HTMLInputElement || (key !== 'a' && key !== 'b')) return;
      const at = hover;
      now.current.setMarks((before) => ({ ...before, [key]: at }));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('pointerdown', onDown);
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
    element.addEventListener('pointerleave', onLeave);
    element.addEventListener('dblclick', onDouble);
    window.addEventListener('keydown', onKey);
    return () => {
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('pointerdown', onDown);
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
      element.removeEventListener('pointerleave', onLeave);
      element.removeEventListener('dblclick', onDouble);
      window.removeEventListener('keydown', onKey);
    };
  }, [box]);
}
