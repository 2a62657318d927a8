'use client';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { TriggeredByCases } from '@/core/evidence';
import type { Fault } from '@/core/fault';
import type { EditedCase } from '@/core/project';
import { plural, timeWords } from '@/core/wording';
import { SaveLine } from '../../drafts/SaveLine';
import { useDrafts } from '../../drafts/useDrafts';
import { useUndoKeys } from '../../drafts/useUndoKeys';
import { useAddress } from '../../hooks/useAddress';
import { type Revision, useFilesOf } from '../../hooks/useRevision';
import { DraftText } from '../../model/text/DraftText';
import { Choice } from '../../parts/Choice';
import { CaseActions } from './CaseActions';
import { caseFiles, newCase } from './caseFiles';
import { FindCase } from './FindCase';
import { type LaneWindow, labelWidth, laneWidth } from './InputLane';
import { InputLanes } from './InputLanes';
import { keepAttempts } from './keepAttempts';
import { RunUnder } from './RunUnder';
import { ScriptEditor } from './ScriptEditor';
import { Triggered } from './Triggered';
import { type CaseInHand, useCase } from './useCase';

interface CaseEditorProps {
  readonly slug: string;
  readonly newest: Revision;
  /** What the newest runs of the cases trigger. */
  readonly triggered: TriggeredByCases;
}

/** A case as lanes of its free inputs over time and a script, its text beside it, and under it its run, anew with each change. */
export function CaseEditor({ slug, newest, triggered }: CaseEditorProps) {
  const files = useFilesOf(newest);
  const drafts = useDrafts(slug, newest.revision, files);
  const [name, setName] = useAddress('case');
  const [wanted] = useAddress('for');
  const [target] = useAddress('break');
  const aimed = target ?? wanted;
  const aim = aimed === undefined ? undefined : { requirement: aimed, broken: target !== undefined };
  const cases = caseFiles(drafts.files);
  const at = cases.find((one) => one.name === name) ?? (name === undefined && aimed === undefined ? cases[0] : undefined);
  const { found, problem, waiting, change } = useCase(drafts, at?.path);
  useUndoKeys(drafts.undo, drafts.redo);
  const begin = (): void => {
    const made = newCase(drafts.files, wanted === undefined ? 'New case' : `For ${wanted}`);
    drafts.edit(made.path, wanted === undefined ? made.text : `${made.text}meant_for: [${wanted}]\n`);
    setName(made.name);
  };
  const take = (found: readonly SourceFile[]): void => {
    drafts.editAll(found);
    const [first] = found;
    setName(first && caseFiles(found)[0]?.name);
  };
  const isKnown = cases.every((one) => one.name === at?.name || triggered.ran.includes(one.name));
  const view = found?.view?.file === at?.path ? found?.view : undefined;
  return (
    <div className="panes grid h-full grid-cols-[1fr_390px]">
      <main className="h-full min-w-0 overflow-y-auto px-6 pt-4 pb-12">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <Link href={`/p/${slug}/cases`} className="text-soft underline decoration-rule">
            Cases
          </Link>
          <Choice
            label=""
            named="Case"
            value={at?.name ?? ''}
            options={[...(at ? [] : [['', 'choose a case'] as const]), ...cases.map((one) => one.name)]}
            choose={setName}
          />
          <CaseActions drafts={drafts} at={at} choose={setName} begin={begin} rename={(next) => change([{ path: ['case'], value: next }])} />
        </div>
        <h1 className="headline mt-2">
          {at ? (
            <Answer name={at.name} found={found} problem={problem} triggered={triggered} isKnown={isKnown} />
          ) : target !== undefined ? (
            `A case that breaks ${target}`
          ) : wanted === undefined ? (
            'Begin a case, or choose one.'
          ) : (
            `A case for ${wanted}`
          )}
        </h1>
        {!at && (
          <>
            {target !== undefined && (
              <FindCase
                aim={{ broken: target }}
                words={`Try to break ${target}`}
                files={drafts.files}
                take={take}
                keep={(attempts) => void keepAttempts(slug, attempts)}
              />
            )}
            {wanted !== undefined && <FindCase aim={{ requirement: wanted }} words={`Find a case for ${wanted}`} files={drafts.files} take={take} />}
            <button type="button" className={aimed === undefined ? 'act act-first mt-3' : 'act mt-3'} onClick={begin}>
              {wanted === undefined ? 'Begin a case' : `Begin a case for ${wanted} by hand`}
            </button>
          </>
        )}
        {view && (
          <>
            <p className="mt-1 text-[13px] text-soft">
              loop {view.loop}
              {view.like !== undefined && ` · like ${view.like}`} · {timeWords(view.stopSeconds)}
              {found?.run && ` · run here in ${Math.round(found.run.ms)} ms`}
              {waiting && ' · running …'}
            </p>
            <CaseFaults faults={[...(found?.faults ?? []), ...(found?.ofModel ?? [])]} file={view.file} />
            <Lanes key={view.file} view={view} run={found?.run} change={change} />
          </>
        )}
      </main>
      <aside className="flex h-full min-h-0 flex-col border-rule border-l bg-sheet">
        {at && (
          <>
            <SaveLine slug={slug} drafts={drafts} faults={found?.faults.length ?? 0} path={at.path} />
            <div className="min-h-0 flex-[3]">
              <DraftText path={at.path} faults={found?.faults ?? []} names={view?.names ?? []} drafts={drafts} />
            </div>
            <Triggered run={found?.run} name={at.name} triggered={triggered} isKnown={isKnown} aim={aim} />
          </>
        )}
      </aside>
    </div>
  );
}

/** What is wrong with the text, which is underlined beside it, and with the model. */
function CaseFaults({ faults, file }: { readonly faults: readonly Fault[]; readonly file: string }) {
  if (faults.length === 0) return null;
  return (
    <ul aria-label="Faults" className="mt-2 text-[13px]">
      {faults.map(({ place, message, fix }) => (
        <li key={`${place.file}:${place.line}:${place.column}:${message}`}>
          <span className="figure text-soft">
            {place.file === file ? '' : `${place.file}, `}line {place.line}
          </span>{' '}
          {message} <span className="text-soft">{fix}</span>
        </li>
      ))}
    </ul>
  );
}

interface LanesProps extends Pick<CaseInHand, 'change'> {
  readonly view: EditedCase;
  readonly run: NonNullable<CaseInHand['found']>['run'];
}

/** Inputs, script and run over the same stretch of time; the wheel zooms at the pointer. */
function Lanes({ view, run, change }: LanesProps) {
  const [zoomed, setZoomed] = useState<LaneWindow>();
  const window = zoomed ?? { from: 0, until: view.stopSeconds };
  const box = useRef<HTMLDivElement>(null);
  const now = useRef(window);
  now.current = window;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const onWheel = (event: WheelEvent): void => {
      const { left, width } = element.getBoundingClientRect();
      const share = (event.clientX - left) / width;
      const begin = labelWidth / (labelWidth + laneWidth);
      if (share < begin || event.ctrlKey) return;
      event.preventDefault();
      setZoomed(zoomedAt(now.current, (share - begin) / (1 - begin), event, view.stopSeconds));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [view.stopSeconds]);
  return (
    <>
      <div ref={box} className="max-md:overflow-x-auto max-md:[&>*]:min-w-[640px]">
        <InputLanes view={view} window={window} trace={run?.trace} change={change} />
      </div>
      {zoomed && (
        <button type="button" className="text-[13px] underline decoration-rule" onClick={() => setZoomed(undefined)}>
          whole case
        </button>
      )}
      <ScriptEditor view={view} change={change} />
      {run && <RunUnder run={run} view={view} window={window} />}
    </>
  );
}

const leastSpan = 0.1;

/** The window zoomed about a place in it, or moved along where the wheel is turned sideways. */
function zoomedAt({ from, until }: LaneWindow, share: number, { deltaX, deltaY, shiftKey }: WheelEvent, stop: number): LaneWindow | undefined {
  const span = until - from;
  const isMove = shiftKey || Math.abs(deltaX) > Math.abs(deltaY);
  const next = isMove ? span : Math.max(leastSpan, Math.min(stop, span * Math.exp(deltaY / 400)));
  const begin = isMove ? from + ((deltaX || deltaY) / 1000) * span : from + share * (span - next);
  const start = Math.max(0, Math.min(stop - next, begin));
  return next >= stop ? undefined : { from: start, until: start + next };
}

interface AnswerProps {
  readonly name: string;
  readonly found: ReturnType<typeof useCase>['found'];
  readonly problem: string | undefined;
  readonly triggered: TriggeredByCases;
  /** All other cases have been run. */
  readonly isKnown: boolean;
}

/** What the case shows, in a sentence. */
function Answer({ name, found, problem, triggered, isKnown }: AnswerProps) {
  if (problem) return <>{problem}</>;
  if (!found) return <>{name} …</>;
  if (found.faults.length > 0)
    return (
      <>
        <strong className="font-semibold">{name}:</strong> <span className="text-fail">{plural(found.faults.length, 'fault')}</span> in its text.
      </>
    );
  if (found.ofModel.length > 0)
    return (
      <>
        <strong className="font-semibold">{name}</strong> cannot be run: <span className="text-fail">{plural(found.ofModel.length, 'fault')}</span> in
        the model.
      </>
    );
  const { run } = found;
  if (!run) return <>{name}</>;
  if (run.result.error)
    return (
      <>
        <strong className="font-semibold">{name}</strong> <span className="text-fail">ends in an error at {timeWords(run.result.error.at)}.</span>
      </>
    );
  const failing = [...new Set(run.triggered.filter((one) => one.verdict === 'fail').map((one) => one.requirement))];
  const isNew = (one: (typeof run.triggered)[number]): boolean =>
    !triggered.criteria.some(
      (other) => other.requirement === one.requirement && other.criterion === one.criterion && other.cases.some((test) => test !== name),
    );
  const added = run.triggered.filter(isNew).length;
  const unmet = run.result.expected.filter((one) => one.outcome !== 'met').length;
  return (
    <>
      <strong className="font-semibold">{name}</strong> triggers {plural(run.triggered.length, 'criterion', 'criteria')}
      {failing.length > 0 ? (
        <>
          ;{' '}
          <span className="text-fail">
            {failing.join(', ')} {failing.length === 1 ? 'fails' : 'fail'}
          </span>
        </>
      ) : (
        ', none fails'
      )}
      {added > 0 && (
        <>
          ; {added} that no other case {isKnown ? '' : 'that has been run '}triggers
        </>
      )}
      {unmet > 0 && (
        <>
          ; <span className="text-fail">{unmet === 1 ? '1 expectation is' : `${unmet} expectations are`} not met</span>
        </>
      )}
      .
    </>
  );
}
