'use client';
import Link from 'next/link';
import { Fragment } from 'react';
import { type CriterionState, type LedgerRow, unseenReason } from '@/core/evidence';
import { marginWords, plural, sentenceOf } from '@/core/wording';
import { deciding } from '../parts/MarginBar';
import { Sentence } from '../parts/Sentence';
import { NextAction } from './NextAction';
import { Since } from './Since';
import { WorstObligation } from './WorstObligation';

interface WhyProps {
  readonly slug: string;
  readonly revision: number;
  readonly row: LedgerRow;
  /** Cases that have something to tell once they are run. */
  readonly casesToRun: readonly string[];
  readonly run: (cases?: readonly string[]) => Promise<void>;
}

/** Answers "why?" for one requirement: prose, criteria, the worst obligation on its trace, the cases that bear on it, one next action. */
export function WhyDrawer({ slug, revision, row, casesToRun, run }: WhyProps) {
  const { result } = row;
  const criterion = deciding(result);
  const shown = row.criteria.find((one) => one.name === criterion?.name) ?? row.criteria[0];
  const obligations = result.criteria.reduce((sum, one) => sum + one.obligations, 0);
  const link = criterion?.worst
    ? `/p/${slug}/runs/${criterion.worst.run}?requirement=${encodeURIComponent(row.id)}&criterion=${encodeURIComponent(criterion.name)}&from=${criterion.worst.obligation.from}`
    : undefined;
  return (
    <aside aria-label={`Why ${row.id}`} className="h-full overflow-y-auto bg-sheet px-5 pt-5 pb-10">
      <h2 className="text-soft">
        Why {row.id} {{ pass: 'passes', fail: 'fails', 'lacks evidence': 'lacks evidence' }[result.state]}
      </h2>
      <blockquote className="mt-1.5 font-serif text-[18px] leading-[1.35]">“{row.text}”</blockquote>
      {row.note && <p className="mt-1 text-soft">{row.note}</p>}
      {shown && (
        <div className="mt-3 border-key border-l-[3px] bg-tint px-3 py-2">
          <Sentence text={shown.sentence} />
          <p className="figure mt-1.5 text-soft">{shown.stl}</p>
          {row.criteria.length > 1 && (
            <p className="mt-1.5 text-soft">
              “{shown.name}”, the one that decides of {row.criteria.length} criteria
            </p>
          )}
        </div>
      )}
      {result.reason && result.state !== 'fail' && (
        <p className="mt-3">{row.outOfDate ? <Since slug={slug} since={row.outOfDate.since} /> : explain(row, criterion)}</p>
      )}
      {row.stages && result.at && <AtStages stages={row.stages} />}
      {criterion?.worst && shown && (
        <section className="mt-4">
          <p className="mb-1.5 text-soft">
            {obligations === 1 ? 'The one obligation' : `Worst of ${obligations} obligations`} — case “{criterion.worst.case}”
          </p>
          <WorstObligation runId={criterion.worst.run} requirement={row.id} criterion={criterion.name} obligation={criterion.worst.obligation} />
        </section>
      )}
      <section className="mt-5">
        <h3 className="font-bold">Next</h3>
        <NextAction slug={slug} row={row} criterion={criterion} link={link} casesToRun={casesToRun} run={run} />
      </section>
      <Claims slug={slug} row={row} />
      <Attempts row={row} />
      <section className="mt-6 border-rule border-t pt-3 text-soft">
        <BearingCases slug={slug} row={row} />
        <p className="mt-2">
          {row.source && `${row.source} · `}revision {revision}
        </p>
      </section>
    </aside>
  );
}

/** What is known at each stage, where several are demanded. */
function AtStages({ stages }: { readonly stages: NonNullable<LedgerRow['stages']> }) {
  return (
    <section className="mt-5" aria-label="At each stage">
      <h3 className="font-bold">At each stage</h3>
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1 pt-1">
        {stages.map(({ stage, result }) => (
          <Fragment key={stage}>
            <dt className="text-soft">{stage}</dt>
            <dd>
              {result.state}
              {result.reason && `: ${result.reason}`}
            </dd>
          </Fragment>
        ))}
      </dl>
    </section>
  );
}

/** How hard searches have tried to break it. */
function Attempts({ row: { attempts, criteria } }: Pick<WhyProps, 'row'>) {
  if (attempts.length === 0) return null;
  return (
    <section className="mt-5" aria-label="Tried to break">
      <h3 className="font-bold">Tried to break</h3>
      <ul>
        {attempts.map(({ criterion, tries, margin }) => (
          <li key={criterion} className="py-1">
            {criteria.length > 1 && `“${criterion}”: `}not broken in {plural(tries, 'run')} that triggered it
            {margin && `, least margin ${marginWords(margin)}`}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What campaigns say of it. */
function Claims({ slug, row: { id, claims } }: Pick<WhyProps, 'slug' | 'row'>) {
  if (claims.length === 0) return null;
  return (
    <section className="mt-5" aria-label="In campaigns">
      <h3 className="font-bold">In campaigns</h3>
      <ul>
        {claims.map((one) => (
          <li key={`${one.campaign} ${one.criterion}`} className="py-1">
            <Link
              className="underline decoration-rule"
              href={`/p/${slug}/campaigns/${one.campaign}?criterion=${encodeURIComponent(`${id}/${one.criterion}`)}`}
            >
              {one.document}
            </Link>
            : {one.isCurrent ? one.words : <span className="font-serif text-lack italic">out of date</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function BearingCases({ slug, row }: Pick<WhyProps, 'slug' | 'row'>) {
  const { id, bearingCases, result } = row;
  if (bearingCases.length === 0) return result.reason === 'untriggered' && <p>No case triggers it.</p>;
  const count = new Set(bearingCases.map((one) => one.name)).size;
  return (
    <>
      <p>
        {plural(count, 'case')} trigger{count === 1 ? 's' : ''} it:
      </p>
      <ul>
        {bearingCases.map((one) => (
          <li key={one.runId} className="flex gap-2 py-0.5">
            <Link className="text-ink underline decoration-rule" href={`/p/${slug}/runs/${one.runId}?requirement=${encodeURIComponent(id)}`}>
              {one.name}
              {row.stages && `, ${one.stage}`}
            </Link>
            <span className="figure ml-auto whitespace-nowrap">
              {one.verdict} ×{one.obligations}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

function explain(row: LedgerRow, criterion: CriterionState | undefined): string {
  const { reason } = row.result;
  if (reason === 'untriggered')
    return `In every run so far the condition of “${criterion?.name ?? row.criteria[0]?.name ?? ''}” never occurred, so nothing was due and nothing is proved.`;
  if (reason === 'not read yet') return 'The requirement text has not been turned into a criterion yet.';
  if (reason === 'reading not confirmed') return 'A criterion is proposed, but nobody has accepted it yet; until then it does not count.';
  if (reason === 'not run') return 'No run has been judged by it yet.';
  if (reason === unseenReason) return 'It reads an inner value of the controller, which nobody can see on a bench.';
  if (reason === 'no case') return 'There is no case yet that could test it.';
  return sentenceOf(`${reason.charAt(0).toUpperCase()}${reason.slice(1)}`);
}
