'use client';
import { type ComponentProps, useEffect, useMemo, useRef, useState } from 'react';
import { criterionSlots } from '@/core/criteria';
import type { RunObligation } from '@/core/evidence';
import type { Column } from '@/core/trace';
import { figure, timeWords } from '@/core/wording';
import type { Replayed } from '../engine/engine';
import { criterionLimits } from '../plot/criterionSignals';
import { isBand, Lane, laneHeight, ObligationShade, shortName, TimeAxis } from '../plot/LanePlot';
import { valueAt } from '../plot/reduce';
import { SignalPicker } from './SignalPicker';
import { type Marks, usePlotGestures } from './usePlotGestures';
import { type Window, windowAround } from './window';

const labelWidth = 168;
/** Room above the lanes for the words of the chosen obligation. */
const head = 20;

/** Slots that people added to the lanes, or dropped from them. */
interface ChosenLanes {
  readonly added: readonly number[];
  readonly dropped: readonly number[];
}

/** Lanes over one time axis, with zoom, cursors, limits and the chosen obligation. */
export function RunPlot({ replayed, chosen }: { readonly replayed: Replayed; readonly chosen: RunObligation | undefined }) {
  const { trace, order } = replayed;
  const { whole, view, setView } = useView(trace, chosen);
  const { lanes, add, drop } = useChosenLanes();
  const [pointer, setPointer] = useState<number>();
  const [marks, setMarks] = useState<Marks>({});
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const watched = order.watched.find((one) => one.requirement === chosen?.requirement && one.name === chosen.criterion);
  const columns = useMemo(() => chooseColumns(replayed, watched ? criterionSlots(watched.criterion) : [], lanes), [replayed, watched, lanes]);
  const limits = watched && chosen ? criterionLimits(watched.criterion, chosen.requirement) : [];
  const frame = { ...view, left: 0, width: Math.max(100, width - labelWidth - 2) };
  const { tops, total } = stacked(columns);
  usePlotGestures(box, { left: labelWidth, view, whole, frameWidth: frame.width, setView, setPointer, setMarks });
  const readAt = pointer ?? marks.a ?? view.from;
  return (
    <>
      <div className="mb-1 flex items-center gap-3 text-[13px] text-soft">
        <SignalPicker columns={trace.columns} shown={columns} add={add} />
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
              drop={() => drop(column.slot)}
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
              <RuledLane key={column.slot} trace={trace} column={column} index={index} frame={frame} top={tops[index] as number} limits={limits} />
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

/** The part of the run that is on the screen: around the chosen obligation, until people go elsewhere. */
function useView(trace: Replayed['trace'], chosen: RunObligation | undefined) {
  const whole = useMemo(() => ({ from: trace.from, until: trace.until }), [trace]);
  const [view, setView] = useState<Window>(() => (chosen ? windowAround(chosen.obligation, whole) : whole));
  useEffect(() => {
    if (chosen) setView(windowAround(chosen.obligation, whole));
  }, [chosen, whole]);
  return { whole, view, setView };
}

/** Where each lane begins, one below the other, and where the last one ends. */
function stacked(columns: readonly Column[]): { readonly tops: readonly number[]; readonly total: number } {
  let total = head;
  const tops = columns.map((column) => {
    const top = total;
    total += laneHeight(column);
    return top;
  });
  return { tops, total };
}

function useChosenLanes() {
  const [lanes, change] = useState<ChosenLanes>({ added: [], dropped: [] });
  const add = (slot: number): void => change(({ added, dropped }) => ({ added: [...added, slot], dropped: dropped.filter((one) => one !== slot) }));
  const drop = (slot: number): void => change(({ added, dropped }) => ({ added: added.filter((one) => one !== slot), dropped: [...dropped, slot] }));
  return { lanes, add, drop };
}

/** A lane with a line below it. */
function RuledLane(props: Omit<ComponentProps<typeof Lane>, 'height'>) {
  const height = laneHeight(props.column);
  const bottom = props.top + height;
  return (
    <g>
      <Lane {...props} height={height} />
      <line x1={0} x2={props.frame.width} y1={bottom} y2={bottom} stroke="var(--rule)" />
    </g>
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
