'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { SignalComparison } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { figure } from '@/core/wording';
import { saveRevision } from '../drafts/saveRevision';
import { askEngine } from '../engine/engine';

interface TrustProps {
  readonly signal: SignalComparison;
  readonly slug: string;
  readonly revision: number;
  readonly files: readonly SourceFile[];
  /** The case whose plant is trusted. */
  readonly first: string;
  readonly because: string;
}

/** Offers to write down where the plant may be trusted: outside, a run gives no pass. */
export function Trust({ signal, slug, revision, files, first, because }: TrustProps) {
  const router = useRouter();
  const [said, setSaid] = useState('');
  const { name, unit, between } = signal;
  if (!between) return null;
  const trust = async (): Promise<void> => {
    const file = await askEngine('trust', { files, case: first, signal, because });
    const saved = await saveRevision(slug, revision, [file]);
    setSaid(
      typeof saved === 'string'
        ? saved
        : `Written into ${file.path}, revision ${saved.revision}. Runs of its loop are out of date until they are run again.`,
    );
    if (typeof saved !== 'string') router.refresh();
  };
  return (
    <div className="mt-3 flex items-center gap-3 border-rule border-t pt-3 text-[13px]">
      <button type="button" className="act" onClick={() => void trust()}>
        Trust {name} from {figure(between.low)} to {figure(between.high)} {unit}
      </button>
      <span role="status" className="text-soft">
        {said || 'The longest span in which it stays in its band. A run that leaves it will give no pass.'}
      </span>
    </div>
  );
}
