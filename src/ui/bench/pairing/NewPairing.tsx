'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type PairingOffer, type PairProposal, type PairRow, pairingDocument, pairingOf } from '@/core/project';
import { saveRevision } from '../../drafts/saveRevision';
import { useFetched } from '../../hooks/useFetched';
import { Choice } from '../../parts/Choice';
import { repaired } from './PairingPage';
import { isOpen, PairTable } from './PairTable';

interface NewProps {
  readonly slug: string;
  readonly revision: number;
  readonly offers: readonly PairingOffer[];
  /** Names of loops that are taken. */
  readonly taken: readonly string[];
  /** Opens the pairing that was saved. */
  readonly open: (pairing: string) => void;
}

/** Takes the controller of a loop to another: the pairs are proposed, and are there to be looked at and saved. */
export function NewPairing({ slug, revision, offers, taken, open }: NewProps) {
  const [from, setFrom] = useState(offers[0]?.loop ?? '');
  const [host, setHost] = useState<string>();
  /** Rows that were chosen by hand, for this controller and host. */
  const [chosen, setChosen] = useState<{ readonly of: string; readonly rows: readonly PairRow[] }>();
  const [problem, setProblem] = useState('');
  const router = useRouter();
  const offer = offers.find((one) => one.loop === from) ?? offers[0];
  const into = offer?.hosts.find((one) => one === host) ?? offer?.hosts[0];
  const key = offer && into && `/api/projects/${slug}/pairs?${new URLSearchParams({ controller: offer.loop, host: into })}&revision=${revision}`;
  const { found: proposal, of, problem: unanswered } = useFetched<PairProposal>(key);
  if (!offer || !into || key === undefined) return null;
  const isThere = proposal !== undefined && of === key;
  const rows = chosen?.of === key ? chosen.rows : isThere ? proposal.rows : [];
  const orphans = isThere ? proposal.orphans : [];
  const name = freeName(`${into}_with_${offer.loop}`, taken);
  const driven = new Set(rows.flatMap((row) => (row.direction === 'output' ? row.pairedWith : [])));
  const isReady = isThere && !rows.some(isOpen) && orphans.every((end) => driven.has(end));
  const save = async (): Promise<void> => {
    const saved = await saveRevision(slug, revision, [pairingDocument(pairingOf({ pairing: name, controller: offer.loop, host: into }, rows))]);
    if (typeof saved === 'string') return setProblem(saved);
    open(name);
    router.refresh();
  };
  return (
    <>
      <h1 className="headline">The controller of one loop in another.</h1>
      <p className="mt-2 max-w-[76ch]">
        The same build runs in the other loop in place of what controls it there. Pairs are proposed by name and unit; only signals of the same type
        and unit can be chosen.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2">
        <Choice label="Controller of" value={offer.loop} options={offers.map((one) => one.loop)} choose={setFrom} />
        <Choice label="in" named="Host" value={into} options={offer.hosts} choose={setHost} />
        <span>
          as the loop <span className="figure">{name}</span>
        </span>
      </div>
      <PairTable rows={rows} orphans={orphans} pair={(row, pairedWith) => setChosen({ of: key, rows: repaired(rows, row, pairedWith) })} />
      {(problem || unanswered) && (
        <p role="alert" className="mt-3 border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
          {problem || unanswered}
        </p>
      )}
      <button type="button" className="act act-first mt-4" disabled={!isReady} onClick={() => void save()}>
        Save as a loop
      </button>
    </>
  );
}

function freeName(wanted: string, taken: readonly string[]): string {
  const known = new Set(taken.map((one) => one.toLowerCase()));
  let free = wanted;
  for (let number = 2; known.has(free.toLowerCase()); number += 1) free = `${wanted}_${number}`;
  return free;
}
