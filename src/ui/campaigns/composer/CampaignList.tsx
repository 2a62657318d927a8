'use client';
import type { CampaignLine } from '@/core/campaign';
import { plural } from '@/core/wording';
import { useWalk } from '../../hooks/useWalk';

interface CampaignListProps {
  readonly documents: readonly { readonly path: string; readonly name: string }[];
  readonly lines: readonly CampaignLine[];
  readonly at: string | undefined;
  readonly choose: (name: string) => void;
  readonly add: () => void;
}

/** The campaigns of the project, each with what its newest runs came to. */
export function CampaignList({ documents, lines, at, choose, add }: CampaignListProps) {
  const onKeyDown = useWalk(
    documents.map((one) => one.name),
    at,
    choose,
  );
  return (
    <nav aria-label="Campaigns" className="h-full overflow-y-auto border-rule border-r px-3 pt-4 pb-10">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys */}
      <ul tabIndex={0} onKeyDown={onKeyDown}>
        {documents.map(({ path, name }) => (
          <li key={path}>
            <button
              type="button"
              aria-current={name === at}
              onClick={() => choose(name)}
              className={`w-full border-l-[3px] px-2.5 py-1.5 text-left ${name === at ? 'border-ink bg-tint' : 'border-transparent hover:bg-tint'}`}
            >
              <span className="block font-semibold">{name}</span>
              <Newest line={lines.find((one) => one.file === path)} />
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="act mt-3 ml-2" onClick={add}>
        New campaign
      </button>
    </nav>
  );
}

function Newest({ line }: { readonly line: CampaignLine | undefined }) {
  const [made] = line?.made ?? [];
  if (!made) return <span className="text-[12.5px] text-lack">{line ? 'not run yet' : 'not saved yet'}</span>;
  if (made.state === 'running' || made.state === 'queued' || made.state === 'paused')
    return (
      <span className="text-[12.5px] text-soft">
        {made.done} of {made.total} {made.state === 'paused' ? 'done, held' : 'done'}
      </span>
    );
  return (
    <span className="text-[12.5px] text-soft">
      {plural(made.done, 'run')}, {made.failed > 0 ? <span className="text-fail">{made.failed} with a break</span> : 'none with a break'}
      {!made.isCurrent && ', out of date'}
    </span>
  );
}
