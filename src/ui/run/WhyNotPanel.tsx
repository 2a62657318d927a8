'use client';
import { useEffect, useMemo, useState } from 'react';
import type { WhyNot } from '@/core/explain';
import type { RunOrder } from '@/core/project';
import { askEngine } from '../engine/engine';
import { WhyNotAnswer } from './WhyNotAnswer';

/** Choose a transition of a chart of the loop and see which clause of its guard was FALSE in this run, and when. */
export function WhyNotPanel({ order, slug }: { readonly order: RunOrder; readonly slug: string }) {
  const { transitions, stopNs } = useMemo(() => ({ transitions: order.experiment.plan.transitions, stopNs: order.experiment.stopNs }), [order]);
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<number>();
  const answer = useAnswer(order, chosen);
  if (transitions.length === 0) return <p className="px-4 pt-3 text-soft">No component of this loop is a state chart.</p>;
  const letters = filter.trim().toLowerCase();
  const fitting = transitions.flatMap((one, index) => (`${one.source} ${one.to}`.toLowerCase().includes(letters) ? [{ one, index }] : []));
  return (
    <div className="flex h-full flex-col px-4 pt-3">
      <input
        className="w-full rounded border border-rule bg-ground px-2 py-1"
        placeholder="State the chart is in, or should go to"
        aria-label="Filter transitions"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
      />
      <select
        className="mt-2 min-h-[150px] w-full rounded border border-rule bg-ground text-[13px]"
        size={8}
        aria-label="Transitions"
        value={chosen ?? ''}
        onChange={(event) => setChosen(Number(event.target.value))}
      >
        {fitting.map(({ one, index }) => (
          <option key={index} value={index} className="px-2 py-[3px]">
            {one.source.slice(one.chart.length + 1)} → {one.to || 'stays'}
          </option>
        ))}
      </select>
      <div className="min-h-0 flex-1 overflow-y-auto pt-3 pb-8" aria-live="polite">
        {chosen === undefined && <p className="text-soft">Choose a transition: the run is replayed, watching each part of its guard.</p>}
        {answer && 'problem' in answer && <p className="text-fail">{answer.problem}</p>}
        {answer && 'source' in answer && <WhyNotAnswer why={answer} until={stopNs / 1e9} slug={slug} />}
      </div>
    </div>
  );
}

/** The engine's answer for a transition; the one before stays until it comes. */
function useAnswer(order: RunOrder, transition: number | undefined): WhyNot | { readonly problem: string } | undefined {
  const [answer, setAnswer] = useState<WhyNot | { readonly problem: string }>();
  useEffect(() => {
    if (transition === undefined) return;
    let wanted = true;
    askEngine('why', { order, transition }).then(
      (why) => wanted && setAnswer(why),
      (problem: unknown) => wanted && setAnswer({ problem: problem instanceof Error ? problem.message : String(problem) }),
    );
    return () => {
      wanted = false;
    };
  }, [order, transition]);
  return answer;
}
