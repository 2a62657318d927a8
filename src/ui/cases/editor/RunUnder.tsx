'use client';
import { useMemo, useState } from 'react';
import { namesInSentence } from '@/core/criteria';
import type { EditedCase } from '@/core/project';
import type { EngineTalk } from '../../engine/messages';
import { PickByName } from '../../parts/PickByName';
import { LaneStack } from '../../plot/LaneStack';
import { type LaneWindow, labelWidth, laneWidth } from './InputLane';

interface RunUnderProps {
  readonly run: NonNullable<EngineTalk['edit case']['answer']['run']>;
  readonly view: EditedCase;
  readonly window: LaneWindow;
}

const mostLanes = 6;
const mostRegions = 3;
const mostCriteria = 3;

/** What the sentences of the criteria with the least margins name. */
function namedIn(triggered: RunUnderProps['run']['triggered']): ReadonlySet<string> {
  const margin = (one: (typeof triggered)[number]): number => one.worst?.margin?.measure ?? Number.POSITIVE_INFINITY;
  const nearest = [...triggered].sort((a, b) => margin(a) - margin(b)).slice(0, mostCriteria);
  return new Set(nearest.flatMap(({ sentence }) => namesInSentence(sentence).map(({ path }) => path.join('.').toLowerCase())));
}

/** The run of the case: states of its charts and what its criteria look at. */
export function RunUnder({ run: { trace, result, triggered }, view, window }: RunUnderProps) {
  const [chosen, setChosen] = useState<readonly string[]>();
  const free = useMemo(() => new Set(view.inputs.map((one) => one.name)), [view]);
  const first = useMemo(() => {
    const alive = trace.columns.filter(({ name, data }) => !free.has(name) && data.some((value) => value !== data[0]));
    const regions = alive.filter((column) => column.labels?.[0] === '').slice(0, mostRegions);
    const wanted = namedIn(triggered);
    const named = alive.filter(({ name }) => wanted.has(name.toLowerCase()) || wanted.has(name.toLowerCase().split('.').at(-1) ?? ''));
    return [...new Set([...regions, ...named, ...alive.filter((column) => column.type === 'LREAL')].map((one) => one.name))].slice(0, mostLanes);
  }, [trace, free, triggered]);
  const names = chosen ?? first;
  const columns = names.flatMap((name) => trace.columns.find((one) => one.name === name) ?? []).slice(0, mostLanes);
  const others = trace.columns.filter((one) => !names.includes(one.name)).map(({ name, unit }) => ({ name, unit, about: '' }));
  const broken = result.results
    .flatMap((one) => one.obligations.filter((owed) => owed.outcome === 'broken' && owed.until >= window.from && owed.from <= window.until))
    .slice(0, 20);
  return (
    <section className="mt-6" aria-label="The run of the case">
      <div className="mb-1.5 flex items-center gap-3">
        <h2 className="font-bold">Its run</h2>
        <PickByName words="Other signal" label="Find a signal" items={others} take={({ name }) => setChosen([name, ...names].slice(0, mostLanes))} />
        {result.gaveUp && <span className="text-fail">The script gave up waiting for: {result.gaveUp.text}.</span>}
      </div>
      <LaneStack
        trace={trace}
        columns={columns}
        from={window.from}
        until={window.until}
        left={labelWidth}
        width={labelWidth + laneWidth}
        label="Signals of the run"
        obligations={broken}
      />
    </section>
  );
}
