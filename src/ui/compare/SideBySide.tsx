'use client';
import { Tabs } from 'radix-ui';
import { type ReactNode, useMemo, useState } from 'react';
import type { CompareSettings, SignalComparison, TraceComparison } from '@/core/compare';
import type { Trace } from '@/core/trace';
import type { Compared } from '../engine/messages';
import { toneOf } from '../plot/lane/Lane';
import { PhasePane } from '../plot/PhasePane';
import { CursorWords, useCursors } from '../plot/sheet/LaneSheet';
import { useGrouping } from '../plot/sheet/useGrouping';
import type { Window } from '../plot/sheet/window';
import { ComparedLanes, columnOf } from './ComparedLanes';
import { Figures, Signals } from './ComparedSignals';

interface SideBySideProps {
  readonly found: Compared;
  /** The one of the others whose differences are shown. */
  readonly focus: number;
  readonly comparison: TraceComparison;
  readonly band: CompareSettings;
  /** What is shown below the figures of a signal. */
  readonly children: (shown: SignalComparison) => ReactNode;
}

/** The signal that diverges first, or the one that was picked, over the others that were put beside it; and the list to pick from. */
export function SideBySide({ found, focus, comparison, band, children }: SideBySideProps) {
  const [picked, setPicked] = useState<string>();
  const traces = useMemo(() => [found.trace, ...found.others.map(({ trace }) => trace)], [found]);
  const ordered = [...comparison.signals].sort((a, b) => Number(a.agrees) - Number(b.agrees) || (a.parts ?? 0) - (b.parts ?? 0));
  const shown = ordered.find((one) => one.name === picked) ?? ordered[0];
  const name = shown?.name ?? '';
  const base = useMemo(() => [[name]], [name]);
  const { lanes, work, refused } = useGrouping(base, (one) => columnOf(found.trace, one));
  const cursors = useCursors();
  const { whole, view, setView } = useWholeView(traces);
  if (!shown) return <p className="mt-4 text-soft">The two have no signal in common.</p>;
  const beside = lanes.flat().filter((one) => one !== name);
  return (
    <div className="mt-4 grid grid-cols-[1fr_340px] gap-8 border-ink border-t pt-4 max-lg:grid-cols-1">
      <section aria-label="Signal" className="min-w-0">
        <div className="mb-1 flex flex-wrap items-center gap-3 text-[13px] text-soft">
          <CursorWords cursors={cursors} view={view} />
          <span role="status">{refused}</span>
          <button type="button" className="ml-auto underline decoration-rule" onClick={() => setView(whole)}>
            whole time
          </button>
        </div>
        <ComparedLanes
          traces={traces}
          focus={focus}
          comparison={comparison}
          band={band}
          lanes={lanes}
          fixed={name}
          work={work}
          window={{ whole, view, setView }}
          cursors={cursors}
        />
        <Figures signal={shown} />
        {children(shown)}
      </section>
      <Tabs.Root defaultValue="signals">
        <Tabs.List className="flex gap-4 border-rule border-b" aria-label="About the runs">
          <Tabs.Trigger value="signals" className="tab">
            Signals
          </Tabs.Trigger>
          <Tabs.Trigger value="phase" className="tab">
            Phase plot
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="signals">
          <Signals
            signals={ordered}
            shown={shown}
            pick={setPicked}
            beside={beside}
            toggle={(one) => (beside.includes(one) ? work.drop(one) : work.add(one))}
          />
        </Tabs.Content>
        <Tabs.Content value="phase">
          <PhasePane
            traces={traces.map((trace, index) => ({ trace, tone: toneOf(index) }))}
            names={lanes.flat()}
            view={view}
            at={cursors.pointer ?? cursors.marks.a}
          />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  );
}

/** The time of all runs together, and the part of it that is on the screen. */
function useWholeView(traces: readonly Trace[]) {
  const whole = useMemo(
    () => ({ from: Math.min(...traces.map(({ from }) => from)), until: Math.max(...traces.map(({ until }) => until)) }),
    [traces],
  );
  const [zoomed, setZoomed] = useState<{ readonly of: Window; readonly view: Window }>();
  return { whole, view: zoomed?.of === whole ? zoomed.view : whole, setView: (view: Window) => setZoomed({ of: whole, view }) };
}
