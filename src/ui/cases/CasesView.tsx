'use client';
import Link from 'next/link';
import { useState } from 'react';
import type { CaseView } from '@/core/evidence';
import { plural, timeWords } from '@/core/wording';
import { startRuns } from '../progress/useProgress';
import { StimulusLanes } from './StimulusLanes';

const verdictWords: Readonly<Record<string, string>> = {
  pass: 'nothing broken',
  fail: 'breaks a requirement',
  inconclusive: 'inconclusive',
  none: 'triggers nothing',
  error: 'ended in an error',
};

const tools = [
  { place: 'coverage', words: 'Coverage' },
  { place: 'cases/compare', words: 'Compare' },
  { place: 'cases/fit', words: 'Fit the plant' },
  { place: 'cases/probe', words: 'Push an input' },
  { place: 'cases/linear', words: 'Linear view' },
  { place: 'cases/solvers', words: 'Solver trial' },
];

/** The cases with their stimuli as lanes; one or all can be run from here. */
export function CasesView({ slug, cases }: { readonly slug: string; readonly cases: readonly CaseView[] }) {
  const [problem, setProblem] = useState('');
  const run = async (names?: readonly string[]): Promise<void> => setProblem((await startRuns(slug, names)) ?? '');
  const failing = cases.filter((one) => one.run?.verdict === 'fail' || one.run?.verdict === 'error').length;
  const missing = cases.filter((one) => !one.run?.isCurrent).length;
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <div className="flex items-start gap-4 max-md:flex-wrap max-md:gap-2">
        <h1 className="headline max-md:w-full">
          <strong className="font-semibold">{plural(cases.length, 'case')}:</strong>{' '}
          {failing > 0 ? <span className="text-fail">{failing} with a break</span> : 'none with a break'}
          {missing > 0 && <span className="text-lack">, {missing} to be run</span>}.
        </h1>
        {tools.map(({ place, words }, index) => (
          <Link key={place} href={`/p/${slug}/${place}`} className={`act ${index === 0 ? 'md:ml-auto' : ''}`}>
            {words}
          </Link>
        ))}
        <Link href={`/p/${slug}/cases/edit?case=`} className="act">
          New case
        </Link>
        <button type="button" className="act act-first" disabled={cases.length === 0} onClick={() => void run()}>
          Run all
        </button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-fail">
          {problem}
        </p>
      )}
      {cases.length === 0 && (
        <p className="prose-line mt-4">
          There are no cases yet. Run a loop by hand at{' '}
          <Link className="underline" href={`/p/${slug}/desk`}>
            the desk
          </Link>{' '}
          and save what you did as a case; or{' '}
          <Link className="underline" href={`/p/${slug}/cases/edit?case=`}>
            write one
          </Link>
          : stimuli over time, or a script of steps.
        </p>
      )}
      <ul className="mt-3 border-ink border-t">
        {cases.map((one) => (
          <CaseRow key={one.name} slug={slug} of={one} run={() => void run([one.name])} />
        ))}
      </ul>
    </main>
  );
}

function CaseRow({ slug, of, run }: { readonly slug: string; readonly of: CaseView; readonly run: () => void }) {
  return (
    <li
      id={of.name}
      className="grid scroll-mt-2 grid-cols-[minmax(260px,30%)_1fr_150px] gap-5 max-md:grid-cols-1 max-md:gap-2 border-rule border-b py-3.5"
    >
      <div>
        <h2 className="font-semibold text-[15px]">{of.name}</h2>
        <p className="font-serif text-[15px] leading-snug">{of.about}</p>
        <p className="mt-1 text-[12.5px] text-soft">{of.meantFor.length > 0 && <>meant for {of.meantFor.join(', ')}</>}</p>
      </div>
      <div>
        <StimulusLanes data={of} />
        {of.changes.length > 0 && <p className="figure mt-1 text-soft">{of.changes.join(' · ')}</p>}
      </div>
      <div className="flex flex-col items-start gap-1.5">
        <span className="flex gap-2">
          <button type="button" className="act" aria-label={`Run ${of.name}`} onClick={run}>
            Run
          </button>
          <Link href={`/p/${slug}/cases/edit?case=${encodeURIComponent(of.name)}`} className="act" aria-label={`Edit ${of.name}`}>
            Edit
          </Link>
        </span>
        {of.run ? <NewestRun slug={slug} run={of.run} stopSeconds={of.stopSeconds} /> : <span className="text-lack">not run yet</span>}
      </div>
    </li>
  );
}

interface NewestRunProps {
  readonly slug: string;
  readonly run: NonNullable<CaseView['run']>;
  readonly stopSeconds: number;
}

function NewestRun({ slug, run, stopSeconds }: NewestRunProps) {
  const isBad = run.verdict === 'fail' || run.verdict === 'error';
  return (
    <>
      <Link href={`/p/${slug}/runs/${run.id}`} className={`underline decoration-rule ${isBad ? 'font-semibold text-fail' : ''}`}>
        {verdictWords[run.verdict] ?? run.verdict}
      </Link>
      <span className="figure text-soft">{run.isCurrent ? `${timeWords(stopSeconds)} in ${Math.round(run.elapsedMs)} ms` : 'out of date'}</span>
    </>
  );
}
