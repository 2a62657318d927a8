'use client';
import { useMemo } from 'react';
import type { RunObligation } from '@/core/evidence';
import type { Column, Trace } from '@/core/trace';
import { figure } from '@/core/wording';
import type { Replayed } from '../engine/engine';
import { PickByName } from '../parts/PickByName';
import { criterionGroups, criterionLimits } from '../plot/lane/criterionSignals';
import { isBand, Lane, type LaneCurve, type Limit, laneHeight, shortName, toneOf } from '../plot/lane/Lane';
import { labelRoom } from '../plot/lane/LaneLabels';
import type { LaneFrame } from '../plot/lane/laneFrame';
import { ObligationShade } from '../plot/lane/ObligationShade';
import { valueAt } from '../plot/reduce';
import type { Grouping } from '../plot/sheet/grouping';
import { LaneNames } from '../plot/sheet/LaneNames';
import { CursorWords, LaneSheet, type SheetCursors, type SheetLane } from '../plot/sheet/LaneSheet';
import { useGrouping, whyNotShared } from '../plot/sheet/useGrouping';
import type { Marks } from '../plot/sheet/usePlotGestures';
import type { Window } from '../plot/sheet/window';

/** Room above the lanes for the words of the chosen obligation. */
const head = 20;

interface RunPlotProps {
  readonly replayed: Replayed;
  readonly chosen: RunObligation | undefined;
  readonly view: Window;
  readonly whole: Window;
  readonly setView: (view: Window) => void;
  readonly cursors: SheetCursors;
}

/** Lanes over one time axis, with zoom, cursors, limits and the chosen obligation. */
export function RunPlot({ replayed, chosen, view, whole, setView, cursors }: RunPlotProps) {
  const { trace, order } = replayed;
  const watched = order.watched.find((one) => one.requirement === chosen?.requirement && one.name === chosen.criterion);
  const byName = useMemo(() => new Map(trace.columns.map((column) => [column.name, column])), [trace]);
  const base = useMemo(() => lanesOf(replayed, watched ? criterionGroups(watched.criterion) : []), [replayed, watched]);
  const { lanes, work, refused } = useGrouping(base, (name) => byName.get(name));
  const limits = useMemo(() => (watched ? criterionLimits(watched.criterion, watched.requirement) : []), [watched]);
  const shown = useMemo(
    () => lanes.map((names) => names.flatMap((name) => byName.get(name) ?? [])).filter(({ length }) => length > 0),
    [lanes, byName],
  );
  const addable = trace.columns.filter((column) => !shown.flat().includes(column)).map(({ name, unit }) => ({ name, unit, about: '' }));
  const sheet = useMemo(() => sheetOf(trace, shown, limits), [trace, shown, limits]);
  const shade = (isNamed: boolean) => (frame: LaneFrame, top: number, height: number) =>
    chosen && <ObligationShade obligation={chosen.obligation} frame={frame} top={top} height={height} label={isNamed} />;
  return (
    <>
      <div className="mb-1 flex flex-wrap items-center gap-3 text-[13px] text-soft">
        <PickByName words="Add a signal" label="Find a signal" items={addable} take={({ name }) => work.add(name)} />
        <CursorWords cursors={cursors} view={view} />
        <span role="status">{refused}</span>
        <button type="button" className="ml-auto underline decoration-rule" onClick={() => setView(whole)}>
          whole run
        </button>
      </div>
      <LaneSheet
        label="Lanes of the run"
        lanes={sheet.curves.map((curves, index): SheetLane => {
          const height = sheet.heights[index] as number;
          return {
            key: curves[0]?.column.name ?? '',
            height,
            draw: (frame, top) => <Lane curves={curves} frame={frame} top={top} height={height} limits={limits} right={sheet.right} />,
            label: (at, marks) => (
              <LaneNames
                signals={curves.map(({ column, tone }) => ({ column, tone, value: valueWords(trace, column, at, marks) }))}
                heads={shown.flatMap((columns) => columns.slice(0, 1))}
                work={work}
              />
            ),
          };
        })}
        view={view}
        whole={whole}
        setView={setView}
        cursors={cursors}
        right={sheet.right}
        head={head}
        under={shade(false)}
        over={shade(true)}
        join={work.join}
      />
    </>
  );
}

/** The curves of each lane with their tones, how high the lanes are, and the room their labels need. */
function sheetOf(trace: Trace, shown: readonly (readonly Column[])[], limits: readonly Limit[]) {
  const order = shown.flat();
  const curves = shown.map((columns) =>
    columns.map(
      (column): LaneCurve => ({ trace, column, tone: toneOf(order.indexOf(column)), ...(isBand(column) ? {} : { name: shortName(column) }) }),
    ),
  );
  const labels = curves.map((lane) => [
    ...lane.flatMap(({ name }) => name ?? []),
    ...limits.filter(({ slot }) => lane.some(({ column }) => column.slot === slot)).map(({ label }) => label),
  ]);
  const heights = shown.map((columns, index) => laneHeight(columns, labels[index]?.length ?? 0));
  return { curves, heights, right: labelRoom(labels.flat()) };
}

/** What to show first: the signals of the chosen criterion, then the charts' regions and the free inputs that did anything. */
function lanesOf({ trace, order }: Replayed, criterion: readonly (readonly number[])[]): Grouping {
  const { plan } = order.experiment;
  const bySlot = new Map(trace.columns.map((column) => [column.slot, column]));
  const isAlive = ({ data }: Column): boolean => data.some((value) => value !== data[0]);
  const groups = criterion.map((slots) => slots.flatMap((slot) => bySlot.get(slot) ?? [])).flatMap(sharing);
  const rest = groups.length > 0 ? [] : trace.columns.filter((column) => !isBand(column)).slice(0, 3);
  const others = [...plan.regions, ...plan.inputs].flatMap(({ slot }) => bySlot.get(slot) ?? []).filter(isAlive);
  const alone = [...rest, ...others].filter((column, index, all) => !groups.flat().includes(column) && all.indexOf(column) === index);
  return [...groups, ...alone.map((column) => [column])].map((columns) => columns.map(({ name }) => name));
}

/** Those of some signals that can share a lane with the first, and each of the others by itself. */
function sharing([first, ...rest]: readonly Column[]): Column[][] {
  if (!first) return [];
  const fits = (column: Column): boolean => !isBand(first) && whyNotShared(first, column) === undefined;
  return [[first, ...rest.filter(fits)], ...rest.filter((column) => !fits(column)).map((column) => [column])];
}

/** The value of a signal at an instant, with the difference between the two cursors. */
function valueWords(trace: Trace, column: Column, at: number, { a, b }: Marks): string {
  const time = trace.bases[column.base] as Float64Array;
  const read = (t: number): number => valueAt(time, column.data, column.between === 'held', t);
  const value = read(at);
  if (Number.isNaN(value)) return '—';
  if (column.type === 'BOOL') return value !== 0 ? 'TRUE' : 'FALSE';
  if (column.labels) return column.labels[value] || '—';
  return a === undefined || b === undefined ? figure(value) : `${figure(value)}, Δ ${figure(read(b) - read(a))}`;
}
