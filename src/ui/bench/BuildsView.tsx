'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { BuildView } from '@/core/project';
import { asJson } from '../format/asJson';
import { useAddress } from '../hooks/useAddress';
import { useWalk } from '../hooks/useWalk';
import { BuildRecordView } from './BuildRecordView';

/** What was made of the controllers of each loop, and of which model. */
export function BuildsView({ slug, builds }: { readonly slug: string; readonly builds: readonly BuildView[] }) {
  const [at, setAt] = useAddress('loop');
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  const router = useRouter();
  const shown = builds.find((one) => one.key === at) ?? builds[0];
  const onKeyDown = useWalk(
    builds.map((one) => one.key),
    shown?.key,
    setAt,
  );
  const build = async (loop: string): Promise<void> => {
    setBusy(true);
    setProblem('');
    const response = await fetch(`/api/projects/${slug}/builds`, asJson({ loop })).catch(() => undefined);
    setBusy(false);
    if (response?.ok) router.refresh();
    else setProblem(response ? ((await response.json()) as { error: string }).error : 'The server does not answer. Try again.');
  };
  if (!shown) return <p className="px-6 pt-5">A loop comes first: its controllers become code here.</p>;
  return (
    <div className="grid h-full grid-cols-[260px_1fr]">
      <nav aria-label="Loops" className="h-full overflow-y-auto border-rule border-r px-3 pt-4 pb-10">
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys */}
        <ul tabIndex={0} onKeyDown={onKeyDown}>
          {builds.map((one) => (
            <li key={one.key}>
              <button
                type="button"
                aria-current={one === shown}
                onClick={() => setAt(one.key)}
                className={`w-full border-l-[3px] px-2.5 py-1.5 text-left ${one === shown ? 'border-ink bg-tint' : 'border-transparent hover:bg-tint'}`}
              >
                <span className="block font-semibold">{one.loop}</span>
                <State of={one} />
              </button>
            </li>
          ))}
        </ul>
      </nav>
      <main className="h-full overflow-y-auto px-6 pt-5 pb-10">
        {problem && (
          <p role="alert" className="mb-3 whitespace-pre-wrap border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
            {problem}
          </p>
        )}
        <BuildRecordView slug={slug} of={shown} build={() => void build(shown.key)} isBusy={isBusy} />
      </main>
    </div>
  );
}

function State({ of: { because, made } }: { readonly of: BuildView }) {
  if (made)
    return <span className={`text-[12.5px] ${made.isCurrent ? 'text-soft' : 'text-lack'}`}>{made.isCurrent ? 'current' : 'out of date'}</span>;
  return <span className="text-[12.5px] text-lack">{because ? 'no controller' : 'not built yet'}</span>;
}
