'use client';
import { useEffect, useRef, useState } from 'react';
import type { OpenedDesk } from '@/core';
import { criterionLimits } from '../plot/criterionSignals';
import { LaneStack } from '../plot/LaneStack';
import type { DeskLink } from './DeskLink';
import { useLatest } from './useDesk';

/** The signals that are lanes, over the last seconds; with the limits that watched criteria put on them. */
export function Lanes({
  link,
  desk,
  slots,
  seconds,
}: {
  readonly link: DeskLink;
  readonly desk: OpenedDesk;
  readonly slots: readonly number[];
  readonly seconds: number;
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
  const columns = trace ? slots.flatMap((slot) => trace.columns.find((column) => column.slot === slot) ?? []) : [];
  const until = Math.max(trace?.until ?? 0, seconds);
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
          limits={limits}
          compact={columns.length > 4}
        />
      )}
    </div>
  );
}
