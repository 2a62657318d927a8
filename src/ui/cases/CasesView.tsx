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

/** The cases with their stimuli as lanes; one or all can be run from here. */
export function CasesView({ slug, cases }: { readonly slug: string; readonly cases: readonly CaseView[] }) {
  const [problem, setProblem] = useState('');
  const run = async (names?: readonly string[]): Promise<void> => setProblem((await startRuns(slug, names)) ?? '');
  const failing = cases.filter((one) => one.run?.verdict === 'fail' || one.run?.verdict === 'error').length;
  const missing = cases.filter((one) => !one.run?.isCurrent).length;
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <div className="flex items-start gap-4">
        <h1 className="headline">
          <strong className="font-semibold">{plural(cases.length, 'case')}:</strong>{' '}
          {failing > 0 ? <span className="text-fail">{failing} with a break</span> : 'none with a break'}
          {missing > 0 && <span className="text-lack">, {missing} to be run</span>}.
        </h1>
        <Link href={`/p/${slug}/cases/compare`} className="act ml-auto">
          Compare
        </Link>
        <Link href={`/p/${slug}/cases/fit`} className="act">
          Fit the plant
        </Link>
        <Link href={`/p/${slug}/cases/probe`} className="act">
          Push an input
        </Link>
        <Link href={`/p/${slug}/cases/linear`} className="act">
          Linear view
        </Link>
        <Link href={`/p/${slug}/cases/solvers`} className="act">
          Solver trial
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
          and save what you did as a case; or write one as a document under cases/: stimuli over time, or a script of steps.
        </p>
      )}
      <ul className="mt-3 border-ink border-t">
        {cases.map((one) => (
          <li key={one.name} id={one.name} className="grid scroll-mt-2 grid-cols-[minmax(260px,30%)_1fr_150px] gap-5 border-rule border-b py-3.5">
            <div>
              <h2 className="font-semibold text-[15px]">{one.name}</h2>
              <p className="font-serif text-[15px] leading-snug">{one.about}</p>
              <p className="mt-1 text-[12.5px] text-soft">{one.meantFor.length > 0 && <>meant for {one.meantFor.join(', ')}</>}</p>
            </div>
            <div>
              <StimulusLanes data={one} />
              {one.changes.length > 0 && <p className="figure mt-1 text-soft">{one.changes.join(' · ')}</p>}
            </div>
            <div className="flex flex-col items-start gap-1.5">
              <button type="button" className="act" aria-label={`Run ${one.name}`} onClick={() => void run([one.name])}>
                Run
              </button>
              {one.run ? (
                <>
                  <Link
                    href={`/p/${slug}/runs/${one.run.id}`}
                    className={`underline decoration-rule ${one.run.verdict === 'fail' || one.run.verdict === 'error' ? 'font-semibold text-fail' : ''}`}
                  >
                    {verdictWords[one.run.verdict] ?? one.run.verdict}
                  </Link>
                  <span className="figure text-soft">
                    {one.run.isCurrent ? `${timeWords(one.stopSeconds)} in ${Math.round(one.run.elapsedMs)} ms` : 'out of date'}
                  </span>
                </>
              ) : (
                <span className="text-lack">not run yet</span>
              )}
            </div>
          </li>
        ))}
      </ul>
    </main>
  );
}
