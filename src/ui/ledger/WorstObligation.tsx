'use client';
import type { Obligation } from '@/core';
import { useReplay } from '../engine/useReplay';
import { criterionLimits, criterionSlots } from '../plot/criterionSignals';
import { Lane, laneHeight, ObligationShade, shortName, TimeAxis } from '../plot/LanePlot';

interface Props {
  readonly runId: number;
  readonly requirement: string;
  readonly criterion: string;
  readonly obligation: Obligation;
}

const [width, left] = [352, 0];

/** The worst obligation drawn on its trace: only the signals its criterion speaks of, only the time around it. */
export function WorstObligation({ runId, requirement, criterion, obligation }: Props) {
  const replay = useReplay(runId);
  if (replay.k === 'problem') return <p className="text-fail">The run could not be made again: {replay.message}</p>;
  if (replay.k === 'waiting') return <div className="h-40 animate-pulse bg-tint" role="status" aria-label="Making the run again" />;
  const { trace, order } = replay.replayed;
  const watched = order.watched.find((one) => one.requirement === requirement && one.name === criterion);
  if (!watched) return null;
  const columns = criterionSlots(watched.criterion).flatMap((slot) => trace.columns.find((column) => column.slot === slot) ?? []);
  const span = Math.max(obligation.until, obligation.at) - obligation.from;
  const room = Math.max(span * 0.35, 2);
  const frame = {
    from: Math.max(trace.from, obligation.from - room),
    until: Math.min(trace.until, Math.max(obligation.until, obligation.at) + room),
    left,
    width,
  };
  const limits = criterionLimits(watched.criterion, requirement);
  const heights = columns.map((column) => laneHeight(column, true) + 16);
  const head = 20;
  const total = heights.reduce((sum, one) => sum + one, head);
  return (
    <svg
      viewBox={`0 0 ${width} ${total + 20}`}
      className="w-full border border-rule bg-sheet"
      role="img"
      aria-label={`Trace around the obligation: ${obligation.outcome}`}
    >
      <ObligationShade obligation={obligation} frame={frame} top={head} height={total - head} label={false} />
      {columns.map((column, index) => {
        const top = heights.slice(0, index).reduce((sum, one) => sum + one, head);
        return (
          <g key={column.slot}>
            <text x={6} y={top + 13} fontSize={11} fill="var(--ink)">
              {shortName(column)} <tspan fill="var(--soft)">{column.unit}</tspan>
            </text>
            <Lane
              trace={trace}
              column={column}
              index={index}
              frame={frame}
              top={top + 14}
              height={laneHeight(column, true)}
              limits={limits}
              named={false}
            />
          </g>
        );
      })}
      <ObligationShade obligation={obligation} frame={frame} top={head} height={total - head} label />
      <TimeAxis frame={{ ...frame, width: width - 16, left: 8 }} top={total} />
    </svg>
  );
}
