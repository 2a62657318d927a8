'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type PairingView, type PairRow, pairingDocument, pairingOf } from '@/core/project';
import { saveRevision } from '../../drafts/saveRevision';
import { isOpen, PairTable } from './PairTable';

interface PageProps {
  readonly slug: string;
  readonly revision: number;
  readonly of: PairingView;
}

/** The controller of one loop in another: its pairs, which may be chosen anew. */
export function PairingPage({ slug, revision, of }: PageProps) {
  const [rows, setRows] = useState(of.rows);
  const [problem, setProblem] = useState('');
  const router = useRouter();
  const isChanged = rows !== of.rows;
  const save = async (): Promise<void> => {
    const { pairing, about, controller, host, replaces } = of.raw;
    const head = { pairing, ...(about === undefined ? {} : { about }), controller, host, ...(replaces ? { replaces } : {}) };
    const saved = await saveRevision(slug, revision, [pairingDocument(pairingOf(head, rows, of.raw), of.file)]);
    if (typeof saved === 'string') setProblem(saved);
    else router.refresh();
  };
  return (
    <>
      <h1 className="headline">
        {of.raw.pairing}: the controller of {of.raw.controller} in {of.raw.host}.
      </h1>
      <p className="mt-2 max-w-[76ch]">
        {of.isSameBuild ? 'The very build' : 'Another build'} of {of.parts.own.join(', ')} runs here. It is a loop like any other: cases, campaigns
        and benches name it {of.raw.pairing}.
      </p>
      <PairTable rows={rows} orphans={of.orphans} pair={(row, pairedWith) => setRows(repaired(rows, row, pairedWith))} />
      {problem && (
        <p role="alert" className="mt-3 border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
          {problem}
        </p>
      )}
      {isChanged && (
        <p className="mt-4 flex gap-2">
          <button type="button" className="act act-first" disabled={rows.some(isOpen)} onClick={() => void save()}>
            Save
          </button>
          <button type="button" className="act" onClick={() => setRows(of.rows)}>
            Leave as it was
          </button>
        </p>
      )}
    </>
  );
}

/** Rows with one of them paired anew, by hand. */
export function repaired(rows: readonly PairRow[], row: PairRow, pairedWith: readonly string[]): PairRow[] {
  const nothing = row.free === undefined ? '' : `stays a free input, ${row.free}`;
  return rows.map((one) => (one === row ? { ...one, pairedWith, because: pairedWith.length > 0 ? 'chosen' : nothing } : one));
}
