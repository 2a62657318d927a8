'use client';
import Link from 'next/link';
import { type ReactNode, useMemo, useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import type { Ledger, LedgerRow } from '@/core/evidence';
import { plural } from '@/core/wording';
import type { LedgerHead } from '../hooks/ledgerHead';
import { useAddress } from '../hooks/useAddress';
import { useNarrow } from '../hooks/useNarrow';
import { useWalk } from '../hooks/useWalk';
import { useWholeLedger } from '../hooks/useWholeLedger';
import { startRuns } from '../progress/useProgress';
import { LedgerRows } from './LedgerRows';
import { WhyDrawer } from './WhyDrawer';

/** The first screen: which requirements pass, fail or lack evidence, and for each one, why. */
export function LedgerView({ slug, revision, head }: { readonly slug: string; readonly revision: number; readonly head: LedgerHead }) {
  const { ledger, total } = head;
  const { rows: known, isWhole } = useWholeLedger(slug, head);
  const [at, setAt] = useAddress('at');
  const [filter, setFilter] = useState('');
  const [problem, setProblem] = useState('');
  const isNarrow = useNarrow();
  const [pane, setPane] = useState<HTMLElement | null>(null);
  const rows = useMemo(() => known.filter((row) => matches(row, filter)), [known, filter]);
  const asked = known.find((row) => row.id === at);
  // What an address names may be among the rows that are still to come.
  const selected = asked ?? (at === undefined || isWhole ? (known.find((row) => row.result.state === 'fail') ?? known[0]) : undefined);
  const onKeyDown = useWalk(
    rows.map((row) => row.id),
    selected?.id,
    setAt,
  );
  const run = async (cases?: readonly string[]): Promise<void> => setProblem((await startRuns(slug, cases)) ?? '');
  return (
    <Group orientation={isNarrow ? 'vertical' : 'horizontal'} className="h-full">
      <Panel defaultSize="69%" minSize="45%">
        <main ref={setPane} className="h-full overflow-y-auto px-6 pt-5 pb-10 max-md:px-3">
          <Summary ledger={ledger} total={total}>
            <input
              type="search"
              value={filter}
              onChange={(event) => setFilter(event.target.value)}
              onKeyDown={onKeyDown}
              placeholder="Filter"
              aria-label="Filter requirements"
              className="w-32 rounded border border-rule bg-sheet px-2 py-1"
            />
            <Link className="act" href={`/p/${slug}/coverage`}>
              Coverage
            </Link>
            <RunButton cases={ledger.casesToRun} run={run} />
          </Summary>
          <Parted slug={slug} parted={ledger.parted} />
          {problem && (
            <p role="alert" className="mt-2 text-fail">
              {problem}
            </p>
          )}
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the table is walked with the arrow keys */}
          <table className="mt-3 w-full border-collapse" tabIndex={0} onKeyDown={onKeyDown} aria-label="Requirements and their state">
            <thead>
              <tr className="border-ink border-b text-left text-soft">
                <th className="w-20 py-2 pl-2.5 font-normal max-md:w-16">Id</th>
                <th className="py-2 font-normal">Requirement</th>
                {ledger.stages.map((stage) => (
                  <th key={stage} className="w-40 py-2 max-md:w-28 font-normal first-letter:uppercase">
                    {stage}
                  </th>
                ))}
              </tr>
            </thead>
            <LedgerRows rows={rows} stages={ledger.stages} selected={selected?.id} select={setAt} pane={pane} />
          </table>
          {!isWhole && <p className="mt-3 text-soft">Fetching {total - known.length} more …</p>}
          {rows.length === 0 && isWhole && <NoRows slug={slug} filter={filter} />}
          <Reports slug={slug} />
        </main>
      </Panel>
      <Separator className={`${isNarrow ? 'h-1' : 'w-px'} bg-rule data-[separator=hover]:bg-ink`} />
      <Panel defaultSize="31%" minSize="22%">
        {selected && <WhyDrawer key={selected.id} slug={slug} revision={revision} row={selected} casesToRun={ledger.casesToRun} run={run} />}
      </Panel>
    </Group>
  );
}

/** Runs of code that do something else than the model. */
function Parted({ slug, parted }: { readonly slug: string; readonly parted: LedgerHead['ledger']['parted'] }) {
  if (parted.length === 0) return null;
  return (
    <section aria-label="Code against model" className="mt-3 border-lack border-l-[3px] bg-lack-tint px-3 py-1.5">
      <ul>
        {parted.map((one) => (
          <li key={one.runId}>
            <Link className="underline decoration-rule" href={`/p/${slug}/runs/${one.runId}`}>
              {one.case}
            </Link>
            : {one.words}
          </li>
        ))}
      </ul>
    </section>
  );
}

function SummaryBar({ ledger, total }: LedgerHead) {
  const share = (count: number): string => `${(100 * count) / Math.max(1, total)}%`;
  return (
    <div className="mt-3 flex h-2 gap-0.5" aria-hidden="true">
      <div className="bg-pass" style={{ width: share(ledger.pass) }} />
      <div className="bg-fail" style={{ width: share(ledger.fail) }} />
      <div className="border border-lack border-dashed" style={{ width: share(ledger.lacksEvidence) }} />
    </div>
  );
}

function matches({ id, text, result }: LedgerRow, filter: string): boolean {
  return `${id} ${text} ${result.state} ${result.reason}`.toLowerCase().includes(filter.trim().toLowerCase());
}

/** How many pass, fail and lack evidence, and why they lack it. */
function Summary({ ledger, total, children }: LedgerHead & { readonly children: ReactNode }) {
  return (
    <>
      <h1 className="headline">
        <strong className="font-semibold">{plural(total, 'requirement')}:</strong> <span className="text-pass">{ledger.pass} pass</span>,{' '}
        <span className="text-fail">{ledger.fail} fail</span>, <span className="text-lack">{ledger.lacksEvidence} lack evidence</span>.
      </h1>
      <SummaryBar ledger={ledger} total={total} />
      <div className="mt-2.5 flex items-center gap-3 max-md:flex-wrap">
        <p className="text-soft">
          {ledger.lacksEvidence > 0 &&
            `Of the ${ledger.lacksEvidence}: ${ledger.reasons.map(({ reason, count }) => `${count} ${reason}`).join(' · ')}`}
        </p>
        <div className="ml-auto flex shrink-0 items-center gap-2 max-md:shrink max-md:flex-wrap">{children}</div>
      </div>
    </>
  );
}

function RunButton({ cases, run }: { readonly cases: Ledger['casesToRun']; readonly run: (cases?: readonly string[]) => Promise<void> }) {
  return cases.length > 0 ? (
    <button type="button" className="act act-first" onClick={() => void run(cases)}>
      Run what is missing ({plural(cases.length, 'case')})
    </button>
  ) : (
    <button type="button" className="act" onClick={() => void run()}>
      Run all cases
    </button>
  );
}

function NoRows({ slug, filter }: { readonly slug: string; readonly filter: string }) {
  return (
    <p className="mt-6 text-soft">
      {filter ? (
        `No requirement matches “${filter}”.`
      ) : (
        <>
          The project has no requirements yet.{' '}
          <Link className="text-ink underline" href={`/p/${slug}/requirements`}>
            Bring them in
          </Link>
          .
        </>
      )}
    </p>
  );
}

function Reports({ slug }: { readonly slug: string }) {
  return (
    <footer className="mt-6 flex gap-4 text-soft">
      <a className="underline" download href={`/api/projects/${slug}/report?format=csv`}>
        Save as CSV
      </a>
      <a className="underline" download href={`/api/projects/${slug}/report?format=junit`}>
        Save as JUnit XML
      </a>
    </footer>
  );
}
