'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { benchDocument, sheetCsv, sheetFromCsv } from '@/core/bench';
import type { BenchView } from '@/core/project';
import { saveRevision } from '../../drafts/saveRevision';
import { saveText } from '../../parts/saveText';

interface SheetProps {
  readonly slug: string;
  readonly revision: number;
  readonly of: BenchView;
}

/** The wiring sheet as a table for other programs: out, and in again as a new revision. */
export function SheetFile({ slug, revision, of }: SheetProps) {
  const [told, setTold] = useState<readonly string[]>([]);
  const file = useRef<HTMLInputElement>(null);
  const router = useRouter();
  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    const found = sheetFromCsv(of.raw, await chosen.text());
    if ('faults' in found) return setTold(found.faults.map(({ line, message }) => `Line ${line}: ${message}`));
    const saved = await saveRevision(slug, revision, [benchDocument(found.raw, of.file)]);
    setTold([typeof saved === 'string' ? saved : `Taken over in revision ${saved.revision}.`]);
    if (typeof saved !== 'string') router.refresh();
  };
  return (
    <div className="mt-5 flex flex-wrap items-center gap-2">
      <Link className="act" href={`/p/${slug}/model?document=${encodeURIComponent(of.file)}`}>
        Sheet as text
      </Link>
      <button type="button" className="act" onClick={() => saveText(`${of.bench}.csv`, sheetCsv(of.raw), 'text/csv')}>
        Save sheet as CSV
      </button>
      <button type="button" className="act" onClick={() => file.current?.click()}>
        Take sheet from CSV
      </button>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv"
        aria-label="Sheet as CSV"
        className="hidden"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {told.map((words) => (
        <p key={words} role="status" className="basis-full">
          {words}
        </p>
      ))}
    </div>
  );
}
