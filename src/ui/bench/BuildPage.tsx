'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { BuildView } from '@/core/project';
import { asJson } from '../format/asJson';
import { BuildRecordView } from './BuildRecordView';

/** What was made of the controllers of a loop, and of which model. */
export function BuildPage({ slug, of }: { readonly slug: string; readonly of: BuildView }) {
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  const router = useRouter();
  const build = async (): Promise<void> => {
    setBusy(true);
    setProblem('');
    const response = await fetch(`/api/projects/${slug}/builds`, asJson({ loop: of.key })).catch(() => undefined);
    setBusy(false);
    if (response?.ok) router.refresh();
    else setProblem(response ? ((await response.json()) as { error: string }).error : 'The server does not answer. Try again.');
  };
  return (
    <>
      {problem && (
        <p role="alert" className="mb-3 whitespace-pre-wrap border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
          {problem}
        </p>
      )}
      <BuildRecordView slug={slug} of={of} build={() => void build()} isBusy={isBusy} />
    </>
  );
}

export function stateOfBuild({ because, made }: BuildView): string {
  if (made) return made.isCurrent ? 'current' : 'out of date';
  return because ? 'no controller' : 'not built yet';
}
