'use client';
import { useEffect, useState } from 'react';
import { timeWords } from '@/core/wording';
import type { DeskLink } from './DeskLink';
import { useFrame } from './useDesk';

const speeds = [0.1, 0.5, 1, 2, 5, 20, 100, 1_000, 10_000, Number.POSITIVE_INFINITY];

/** What moves time: run, pause, one hit, back, how fast, kept moments, and a condition at which to stand still. */
export function Transport({
  link,
  example,
  conditionProblem,
  openTake,
}: {
  readonly link: DeskLink;
  /** A condition to pause at, as an example. */
  readonly example: string;
  readonly conditionProblem: string;
  readonly openTake: () => void;
}) {
  const running = useFrame(link, (frame) => frame?.running ?? false);
  const isAtStart = useFrame(link, (frame) => (frame?.nowNs ?? 0) === 0);
  useKeys(link);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-ink border-y py-2" role="toolbar" aria-label="Time">
      <button type="button" className="act act-first w-[74px]" onClick={() => link.tell({ k: running ? 'pause' : 'play' })}>
        {running ? 'Pause' : 'Run'}
      </button>
      <button type="button" className="act" disabled={running} onClick={() => link.tell({ k: 'hit' })}>
        One hit
      </button>
      <button type="button" className="act" disabled={isAtStart} onClick={() => link.tell({ k: 'back' })}>
        Back to start
      </button>
      <Clock link={link} />
      <Speed link={link} />
      <PauseWhen link={link} example={example} isWrong={conditionProblem !== ''} />
      <span className="ml-auto flex items-center gap-2">
        <Moments link={link} />
        <button type="button" className="act" disabled={isAtStart} onClick={openTake}>
          Take …
        </button>
      </span>
      {conditionProblem && (
        <p role="alert" className="w-full text-fail">
          {conditionProblem}
        </p>
      )}
    </div>
  );
}

/** The space bar runs and pauses, a full stop makes one hit. */
function useKeys(link: DeskLink): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const { target } = event;
      const isElsewhere = target instanceof HTMLElement && target !== document.body && target.tagName !== 'MAIN';
      if (isElsewhere || event.ctrlKey || event.metaKey) return;
      if (event.key === ' ') {
        event.preventDefault();
        link.tell({ k: link.frame?.running ? 'pause' : 'play' });
      }
      if (event.key === '.') link.tell({ k: 'hit' });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [link]);
}

function Speed({ link }: { readonly link: DeskLink }) {
  const [speed, setSpeed] = useState(1);
  return (
    <label className="flex items-center gap-1.5 text-soft">
      speed
      <select
        value={String(speed)}
        onChange={(event) => {
          const times = Number(event.target.value);
          setSpeed(times);
          link.tell({ k: 'speed', times });
        }}
        className="rounded border border-rule bg-sheet px-1 py-1 text-ink"
      >
        {speeds.map((one) => (
          <option key={one} value={String(one)}>
            {Number.isFinite(one) ? `${one} ×` : 'as fast as it goes'}
          </option>
        ))}
      </select>
    </label>
  );
}

function PauseWhen({ link, example, isWrong }: { readonly link: DeskLink; readonly example: string; readonly isWrong: boolean }) {
  const [condition, setCondition] = useState('');
  const tell = (): void => link.tell({ k: 'pause when', text: condition });
  return (
    <form
      className="flex items-center gap-1.5 text-soft"
      onSubmit={(event) => {
        event.preventDefault();
        tell();
      }}
    >
      <label className="flex items-center gap-1.5">
        pause when
        <input
          value={condition}
          onChange={(event) => setCondition(event.target.value)}
          onBlur={tell}
          placeholder={example}
          aria-invalid={isWrong}
          className={`figure w-44 rounded border bg-sheet px-1.5 py-1 text-ink ${isWrong ? 'border-fail' : 'border-rule'}`}
        />
      </label>
    </form>
  );
}

/** Moments that were kept, to return to. */
function Moments({ link }: { readonly link: DeskLink }) {
  const [moments, setMoments] = useState<readonly number[]>([]);
  const keep = (): void => {
    const now = link.frame?.nowNs ?? 0;
    setMoments((before) => [...new Set([...before, now])].sort((a, b) => a - b));
  };
  return (
    <>
      {moments.map((ns) => (
        <button key={ns} type="button" className="chip" title="Return to this moment" onClick={() => link.tell({ k: 'go to', ns })}>
          {timeWords(ns / 1e9)}
        </button>
      ))}
      <button type="button" className="act" onClick={keep}>
        Keep this moment
      </button>
    </>
  );
}

function Clock({ link }: { readonly link: DeskLink }) {
  const now = useFrame(link, (frame) => clockWords((frame?.nowNs ?? 0) / 1e9));
  const exactFrom = useFrame(link, (frame) => frame?.exactFrom ?? 0);
  return (
    <>
      <output aria-label="Time of the run" className="min-w-[104px] whitespace-nowrap text-right font-mono text-[19px] tabular-nums" data-clock>
        {now}
      </output>
      {exactFrom > 0 && (
        <span className="text-[12px] text-soft" data-kept>
          exact since {timeWords(Math.round(exactFrom))}, before that least and greatest values
        </span>
      )}
    </>
  );
}

/** Hundredths of a second while they can be followed, then whole seconds. */
function clockWords(seconds: number): string {
  return seconds < 600 ? `${seconds.toFixed(2)} s` : timeWords(Math.floor(seconds));
}
