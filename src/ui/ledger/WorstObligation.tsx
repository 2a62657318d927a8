'use client';
import { criterionSlots, type Obligation } from '@/core/criteria';
import { useReplay } from '../engine/useReplay';
import { LaneStack } from '../plot/LaneStack';
import { criterionLimits } from '../plot/lane/criterionSignals';

interface Props {
  readonly runId: number;
  readonly requirement: string;
  readonly criterion: string;
  readonly obligation: Obligation;
}

const width = 352;

/** The worst obligation drawn on its trace: only the signals its criterion speaks of, only the time around it. */
export function WorstObligation({ runId, requirement, criterion, obligation }: Props) {
  const replay = useReplay(`/api/runs/${runId}`);
  if (replay.k === 'problem') return <p className="text-fail">The run could not be replayed: {replay.message}</p>;
  if (replay.k === 'waiting') return <div className="h-40 animate-pulse bg-tint" role="status" aria-label="Replaying the run" />;
  const { trace, order } = replay.replayed;
  const watched = order.watched.find((one) => one.requirement === requirement && one.name === criterion);
  if (!watched) return null;
  const columns = criterionSlots(watched.criterion).flatMap((slot) => trace.columns.find((column) => column.slot === slot) ?? []);
  const span = Math.max(obligation.until, obligation.at) - obligation.from;
  const room = Math.max(span * 0.35, 2);
  return (
    <LaneStack
      trace={trace}
      columns={columns}
      from={Math.max(trace.from, obligation.from - room)}
      until={Math.min(trace.until, Math.max(obligation.until, obligation.at) + room)}
      width={width}
      label={`Trace around the obligation: ${obligation.outcome}`}
      limits={criterionLimits(watched.criterion, requirement)}
      obligations={[obligation]}
      told
    />
  );
}
