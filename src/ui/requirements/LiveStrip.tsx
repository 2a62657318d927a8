'use client';
import { useEffect, useState } from 'react';
import { drawnFrom, type PenPoint, type Preview, type PreviewOn, type Shown, strokeOver } from '@/core/explain';
import type { Column } from '@/core/trace';
import { marginWords, plural, timeWords } from '@/core/wording';
import { askEngine } from '../engine/engine';
import { LaneStack } from '../plot/LaneStack';
import { criterionLimits } from '../plot/lane/criterionSignals';

interface LiveStripProps {
  readonly sentence: string;
  readonly cases: readonly string[];
  /** The case to begin with. */
  readonly first: string | undefined;
  readonly version: number;
}

const width = 590;
const mostLanes = 5;

/** Traces that are made up to show what a sentence means. */
const inventions = [
  ['broken', 'breaks it'],
  ['met', 'meets it'],
] as const;

/** A sentence on a trace: where obligations arise, how they end and by how much, drawn anew with each letter typed. */
export function LiveStrip({ sentence, cases, first, version }: LiveStripProps) {
  const [chosen, setChosen] = useState<PreviewOn>();
  const on: PreviewOn | undefined = chosen ?? (first === undefined ? undefined : { k: 'case', case: first });
  const preview = usePreview(sentence, on, version);
  /** Over an invented trace one can draw; what is drawn then takes its place. */
  const draw = (column: Column, from: PenPoint, to: PenPoint): void => {
    if (preview?.k !== 'shown') return;
    const shown = preview.shown.trace;
    setChosen((now) => ({ k: 'drawn', drawn: strokeOver(now?.k === 'drawn' ? now.drawn : drawnFrom(shown), column.name, from, to) }));
  };
  return (
    <section aria-label="On a trace">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="font-semibold">On a trace</h3>
        <select
          className="max-w-[230px] rounded border border-rule bg-sheet px-1.5 py-1 text-[13px]"
          aria-label="Case whose run is shown"
          value={on?.k === 'case' ? on.case : ''}
          onChange={(event) => setChosen({ k: 'case', case: event.target.value })}
        >
          {on?.k !== 'case' && <option value="">{on?.k === 'drawn' ? 'drawn by hand' : 'an invented one'}</option>}
          {cases.map((name) => (
            <option key={name} value={name}>
              run of “{name}”
            </option>
          ))}
        </select>
        <span className="text-[13px] text-soft">or one that</span>
        {inventions.map(([wanted, word]) => (
          <button
            key={wanted}
            type="button"
            className="act"
            aria-label={`Show one that ${word}`}
            onClick={() => setChosen({ k: 'invented', wanted })}
          >
            {word}
          </button>
        ))}
      </div>
      <div className="mt-2">
        {!preview ? (
          <div className="h-28 animate-pulse bg-tint" />
        ) : preview.k === 'not' ? (
          <p className="text-soft">{preview.faults[0]?.message ?? preview.why}</p>
        ) : (
          <Strip shown={preview.shown} {...(on?.k === 'case' ? {} : { draw })} />
        )}
      </div>
    </section>
  );
}

/** The last answer stays on the screen until the next is there. */
function usePreview(sentence: string, on: PreviewOn | undefined, version: number): Preview | undefined {
  const [preview, setPreview] = useState<Preview>();
  const key = JSON.stringify(on ?? null);
  useEffect(() => {
    const asked = JSON.parse(key) as PreviewOn | null;
    if (!asked || version === 0) return;
    let wanted = true;
    void askEngine('preview', { sentence, on: asked }).then((found) => wanted && setPreview(found));
    return () => {
      wanted = false;
    };
  }, [sentence, key, version]);
  return preview;
}

function Strip({ shown, draw }: { readonly shown: Shown; readonly draw?: (column: Column, from: PenPoint, to: PenPoint) => void }) {
  const { trace, obligations, criterion, worst } = shown;
  const columns = trace.columns.slice(0, mostLanes);
  // What is drawn on stays whole, so that it does not slip away under the pen.
  const span = draw ? { from: trace.from, until: trace.until } : window(shown);
  const seen = obligations.filter((one) => one.from <= span.until && Math.max(one.until, one.at) >= span.from).slice(0, 200);
  const least = worst === undefined ? undefined : obligations[worst];
  return (
    <>
      <p className="text-[13px] text-soft" role="status">
        {obligations.length === 0
          ? 'Untriggered: no obligation arises here, so this run shows nothing.'
          : `${outcomes(shown)}${least?.margin ? `; the nearest: ${marginWords(least.margin)} at ${timeWords(least.at)}` : ''}.`}
      </p>
      {draw && <p className="text-[13px] text-soft">Draw over a curve to change it.</p>}
      <div className="mt-1">
        {/* With few signals there is room for curves of full height. */}
        <LaneStack
          trace={trace}
          columns={columns}
          {...span}
          width={width}
          label="The sentence on a trace"
          limits={criterionLimits(criterion)}
          obligations={seen}
          told={seen.length <= 6}
          compact={columns.length > 3}
          {...(draw ? { draw } : {})}
        />
      </div>
    </>
  );
}

function outcomes({ obligations }: Shown): string {
  const count = (outcome: string): number => obligations.filter((one) => one.outcome === outcome).length;
  const parts = (['met', 'broken', 'open'] as const).filter((outcome) => count(outcome) > 0).map((outcome) => `${count(outcome)} ${outcome}`);
  return `${plural(obligations.length, 'obligation')}: ${parts.join(', ')}`;
}

/** The whole trace, or the neighbourhood of the obligation that matters most where that is only a small part of it. */
function window({ trace, obligations, worst }: Shown): { from: number; until: number } {
  const one = worst === undefined ? undefined : obligations[worst];
  const whole = trace.until - trace.from;
  if (!one) return { from: trace.from, until: trace.until };
  const end = Math.max(Math.min(one.until, trace.until), one.at);
  const room = Math.max(end - one.from, whole / 50);
  if (end - one.from > whole / 4) return { from: trace.from, until: trace.until };
  return { from: Math.max(trace.from, one.from - room), until: Math.min(trace.until, end + 2 * room) };
}
