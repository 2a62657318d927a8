'use client';
import { useRouter } from 'next/navigation';
import type { SourceFile } from '@/core/documents';
import { marginWords, timeWords } from '@/core/wording';
import type { EngineTalk } from '../../engine/messages';
import { caseFiles } from '../editor/caseFiles';
import { StimulusLanes } from '../StimulusLanes';

interface FoundCaseProps {
  readonly file: SourceFile;
  readonly slug: string;
  readonly shown: EngineTalk['family']['answer'] | undefined;
  readonly accept: () => void;
  readonly drop: () => void;
}

/** A case that was found: what it does, where it reaches the goals that no other case does, and what is to become of it. */
export function FoundCase({ file, slug, shown, accept, drop }: FoundCaseProps) {
  const router = useRouter();
  const name = caseFiles([file])[0]?.name ?? file.path;
  const drawn = shown?.drawn.find((one) => one.name === name);
  const goals = (shown?.family.criteria ?? []).flatMap((criterion) =>
    criterion.goals.flatMap(({ kind, says, reachedBy, margin }) => {
      const [first, ...others] = reachedBy;
      return first?.case === name && others.length === 0
        ? [{ words: `${criterion.name}${kind === 'boundary' ? ':' : ''} ${says}${margin ? `, margin ${marginWords(margin)},` : ''}`, at: first.at }]
        : [];
    }),
  );
  return (
    <section className="mt-4 border-key border-l-[3px] bg-tint px-4 py-3" aria-label={name}>
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold text-[15px]">{name}</h2>
        <button type="button" className="act act-first ml-auto" onClick={accept}>
          Accept
        </button>
        <button
          type="button"
          className="act"
          onClick={() => {
            accept();
            router.push(`/p/${slug}/cases/edit?case=${encodeURIComponent(name)}`);
          }}
        >
          Change it in the editor
        </button>
        <button type="button" className="act" onClick={drop}>
          Leave it
        </button>
      </div>
      {drawn && (
        <div className="mt-2 grid grid-cols-[minmax(300px,56%)_1fr] gap-5 max-md:grid-cols-1">
          <StimulusLanes data={drawn} places={goals.flatMap(({ words, at }) => (at === undefined ? [] : [{ words, at }]))} />
          <ul className="text-[13px]" aria-label="What it alone shows">
            {goals.map(({ words, at }) => (
              <li key={words} className="py-0.5">
                {words}
                {at !== undefined && <span className="figure text-soft"> at {timeWords(at)}</span>}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
