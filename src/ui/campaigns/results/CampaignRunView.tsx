'use client';
import Link from 'next/link';
import { useMemo } from 'react';
import type { RunDetail } from '@/core/evidence';
import { discountOf, ofCase, type RunResult } from '@/core/project';
import { useReplay } from '../../engine/useReplay';
import { RunView } from '../../run/RunView';

/** What was kept of a run of a campaign. */
export interface KeptOfRun {
  readonly document: string;
  readonly caseName: string;
  readonly point: string;
  readonly traceHash: string;
  readonly revision: number;
  readonly isCurrent: boolean;
  readonly sentences: readonly { readonly requirement: string; readonly criterion: string; readonly sentence: string }[];
}

interface CampaignRunProps {
  readonly slug: string;
  readonly campaign: number;
  readonly number: number;
  readonly kept: KeptOfRun;
}

/** One run of a campaign: made again here, because of so many only the verdicts and margins are kept. */
export function CampaignRunView({ slug, campaign, number, kept }: CampaignRunProps) {
  const address = `/api/projects/${slug}/campaigns/${campaign}/runs/${number}`;
  const replay = useReplay(address);
  const run = useMemo(
    () => (replay.k === 'ready' ? detailOf(replay.replayed.result, kept, { slug, address, number }) : undefined),
    [replay, kept, slug, address, number],
  );
  const trail = (
    <>
      <Link href={`/p/${slug}/campaigns/${campaign}`} className="underline decoration-rule">
        {kept.document}
      </Link>{' '}
      › run {number} of {kept.caseName}, {kept.point}
    </>
  );
  if (run) return <RunView run={run} trail={trail} />;
  return (
    <main className="px-6 pt-4">
      <p className="text-soft">{trail}</p>
      <p role="status" className={`headline ${replay.k === 'problem' ? 'text-fail' : ''}`}>
        {replay.k === 'problem' ? `The run could not be made again: ${replay.message}` : 'Making the run again …'}
      </p>
    </main>
  );
}

function detailOf(result: RunResult, kept: KeptOfRun, { slug, address, number }: { slug: string; address: string; number: number }): RunDetail {
  const discounted = discountOf(result);
  const sentenceOf = (requirement: string, criterion: string): string =>
    kept.sentences.find((one) => one.requirement === requirement && one.criterion === criterion)?.sentence ?? '';
  const expected = result.expected.map(({ text, ...obligation }, ordinal) => ({
    requirement: ofCase,
    criterion: text,
    sentence: '',
    ordinal,
    obligation,
  }));
  const owed = result.results.flatMap(({ requirement, name, obligations }) =>
    obligations.map((obligation, ordinal) => ({
      requirement,
      criterion: name,
      sentence: sentenceOf(requirement, name),
      ordinal,
      obligation,
    })),
  );
  return {
    id: number,
    address,
    slug,
    caseName: result.case,
    stage: result.stage,
    seed: result.seed,
    verdict: result.verdict,
    revision: kept.revision,
    isCurrent: kept.isCurrent,
    simulatedSeconds: result.simulatedSeconds,
    traceHash: kept.traceHash,
    ...(result.error ? { error: result.error } : {}),
    ...(discounted ? { discounted } : {}),
    ...(result.gaveUp ? { gaveUp: result.gaveUp.text } : {}),
    obligations: [...expected, ...owed].sort(
      (a, b) => a.obligation.from - b.obligation.from || a.requirement.localeCompare(b.requirement) || a.ordinal - b.ordinal,
    ),
    untriggered: [...new Set(result.results.map((one) => one.requirement))].filter((id) =>
      result.results.every((one) => one.requirement !== id || one.verdict === 'none'),
    ),
  };
}
