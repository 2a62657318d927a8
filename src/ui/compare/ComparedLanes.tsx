'use client';
import { useMemo } from 'react';
import { type CompareSettings, signalOf, type TraceComparison, valueAt } from '@/core/compare';
import type { Column, Trace } from '@/core/trace';
import { figure, signedFigure } from '@/core/wording';
import { isBand, toneOf } from '../plot/lane/Lane';
import { labelRoom } from '../plot/lane/LaneLabels';
import type { Grouping } from '../plot/sheet/grouping';
import { LaneNames } from '../plot/sheet/LaneNames';
import { LaneSheet, type SheetCursors, type SheetLane } from '../plot/sheet/LaneSheet';
import type { LaneWork } from '../plot/sheet/useGrouping';
import type { Window } from '../plot/sheet/window';
import { CompareLane, curvesOf, dashOf, ordinals } from './CompareLane';

interface ComparedLanesProps {
  /** The first run, and those that are compared with it. */
  readonly traces: readonly Trace[];
  /** The one of the others whose differences are shown. */
  readonly focus: number;
  readonly comparison: TraceComparison;
  readonly band: CompareSettings;
  readonly lanes: Grouping;
  /** The signal that is looked at: it stays. */
  readonly fixed: string;
  readonly work: LaneWork;
  readonly window: { readonly whole: Window; readonly view: Window; readonly setView: (view: Window) => void };
  readonly cursors: SheetCursors;
}

/** Signals of all runs in lanes over one time axis. */
export function ComparedLanes({ traces, focus, comparison, band, lanes, fixed, work, window, cursors }: ComparedLanesProps) {
  const columns = useMemo(
    () => lanes.map((names) => names.flatMap((name) => (traces[0] && columnOf(traces[0], name)) ?? [])).filter(({ length }) => length > 0),
    [lanes, traces],
  );
  const right = labelRoom(columns.flatMap((lane) => curvesOf(traces, lane).flatMap(({ name }) => name ?? [])));
  const sheetLane = (lane: readonly Column[]): SheetLane => {
    const height = heightOf(lane, traces.length, columns.length);
    return {
      key: lane[0]?.name ?? '',
      height,
      labelHeight: 26 + 18 * traces.length,
      draw: (frame, top) => (
        <CompareLane
          traces={traces}
          columns={lane}
          focus={focus}
          signals={comparison.signals}
          span={comparison}
          band={band}
          frame={frame}
          top={top}
          height={height}
          right={right}
        />
      ),
      label: (at) => (
        <LaneNames
          signals={lane.map((column, index) => ({
            column,
            dash: dashOf(index),
            isFixed: column.name === fixed,
            value: <Values traces={traces} name={column.name} at={at} focus={focus} />,
          }))}
          heads={columns.flatMap((one) => one.slice(0, 1))}
          work={work}
        />
      ),
    };
  };
  return <LaneSheet label="Lanes of all runs" lanes={columns.map(sheetLane)} {...window} cursors={cursors} right={right} join={work.join} />;
}

export function columnOf(trace: Trace, name: string): Column | undefined {
  return trace.columns.find((column) => column.name === name);
}

/** Room for the curves, and beside them for the values of all runs (px). */
function heightOf(lane: readonly Column[], traces: number, lanes: number): number {
  const values = lane.length * (24 + 16 * traces) + 8;
  const curves = lane.every(isBand) ? 30 * traces * lane.length : lanes === 1 ? 300 : 150;
  return Math.max(values, curves);
}

interface ValuesProps {
  readonly traces: readonly Trace[];
  readonly name: string;
  readonly at: number;
  readonly focus: number;
}

/** The value of a signal in each run, one below the other, and by how much the one that is looked at differs from the first. */
function Values({ traces, name, at, focus }: ValuesProps) {
  const values = traces.map((trace) => {
    const column = columnOf(trace, name);
    return column ? { column, value: valueAt(signalOf(column, trace), at) } : undefined;
  });
  const [first, other] = [values[0], values[focus + 1]];
  return values.map((one, index) => (
    <span key={ordinals[index]} className="flex items-center gap-1.5 whitespace-nowrap text-[12px]">
      <span aria-hidden="true" className="inline-block h-0.5 w-2.5 shrink-0" style={{ background: toneOf(index) }} />
      <span className="sr-only">{ordinals[index]}: </span>
      {one ? wordsOf(one.column, one.value) : '—'}
      {index === focus + 1 && first && other && !isBand(other.column) && (
        <span className="text-soft">({signedFigure(other.value - first.value)})</span>
      )}
    </span>
  ));
}

function wordsOf(column: Column, value: number): string {
  if (Number.isNaN(value)) return '—';
  if (column.type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  return column.labels ? column.labels[value] || '—' : figure(value);
}
