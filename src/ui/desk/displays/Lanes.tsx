'use client';
import { useEffect, useRef, useState } from 'react';
import type { DeskSignal } from '@/core/desk';
import type { OpenedDesk } from '@/core/project';
import { LaneStack } from '../../plot/LaneStack';
import { criterionLimits } from '../../plot/lane/criterionSignals';
import type { DeskLink } from '../session/DeskLink';
import { useLatest } from '../session/useDesk';

/** The signals that are lanes, over the last seconds or about an instant; with the limits that watched criteria put on them. */
export function Lanes({
  link,
  desk,
  signals,
  seconds,
  around,
}: {
  readonly link: DeskLink;
  readonly desk: OpenedDesk;
  readonly signals: readonly DeskSignal[];
  readonly seconds: number;
  /** An instant (s) that is looked at, a quarter into the lanes; else the last seconds are. */
  readonly around: number | undefined;
}) {
  const { trace } = useLatest(link);
  const [width, setWidth] = useState(600);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(Math.max(200, element.clientWidth)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  // Under the name that people know: an output may bear the slot of a value inside its component.
  const columns = trace
    ? signals.flatMap(({ slot, name }) => {
        const column = trace.columns.find((one) => one.slot === slot);
        return column ? [{ ...column, name }] : [];
      })
    : [];
  const until = around === undefined ? Math.max(trace?.until ?? 0, seconds) : around + 0.75 * seconds;
  const limits = desk.criteria.flatMap(({ criterion, requirement }) => criterionLimits(criterion, requirement));
  return (
    <div ref={box} data-until={trace?.until}>
      {trace && columns.length > 0 && (
        <LaneStack
          trace={trace}
          columns={columns}
          from={until - seconds}
          until={until}
          width={width}
          label="Lanes of the desk"
          {...(around === undefined ? {} : { mark: around })}
          limits={limits}
          compact={columns.length > 4}
        />
      )}
    </div>
  );
}
