'use client';
import { useState } from 'react';
import type { Column, Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { PickByName } from '../parts/PickByName';
import { isBand } from './lane/Lane';
import { PhasePlot } from './PhasePlot';
import type { Window } from './sheet/window';

interface PhasePaneProps {
  readonly traces: readonly { readonly trace: Trace; readonly tone: string }[];
  /** Signals that are looked at beside: the first two that are numbers are plotted until others are picked. */
  readonly names: readonly string[];
  readonly view: Window;
  readonly at: number | undefined;
}

/** A phase plot of two signals that are picked by name, over the time that the lanes show. */
export function PhasePane({ traces, names, view, at }: PhasePaneProps) {
  const numbers = (traces[0]?.trace.columns ?? []).filter((column) => !isBand(column));
  const offered = [...names.flatMap((name) => numbers.find((column) => column.name === name) ?? []), ...numbers];
  const [picked, setPicked] = useState<{ readonly across?: string; readonly up?: string }>({});
  const across = offered.find(({ name }) => name === picked.across) ?? offered[0];
  const up = offered.find(({ name }) => name === picked.up) ?? offered.find((column) => column !== across);
  if (!across || !up) return <p className="p-4 text-soft">A phase plot needs two signals that are numbers, and this run has fewer.</p>;
  const curves = traces.flatMap(({ trace, tone }) => {
    const find = ({ name }: Column): Column | undefined => trace.columns.find((column) => column.name === name && !isBand(column));
    const [x, y] = [find(across), find(up)];
    return x && y ? [{ trace, tone, across: x, up: y }] : [];
  });
  const items = numbers.map(({ name, unit }) => ({ name, unit, about: '' }));
  return (
    <div className="h-full overflow-y-auto p-4">
      <p className="mb-2 text-[13px] text-soft">
        From {timeWords(view.from)} to {timeWords(view.until)}, as in the lanes. The dot is where the cursor stands.
      </p>
      <PhasePlot label={`${up.name} over ${across.name}`} curves={curves} view={view} at={at} />
      <div className="mt-2 flex flex-wrap gap-2">
        <PickByName words="Across …" label="Find a signal across" items={items} take={({ name }) => setPicked({ ...picked, across: name })} />
        <PickByName words="Up …" label="Find a signal up" items={items} take={({ name }) => setPicked({ ...picked, up: name })} />
      </div>
    </div>
  );
}
