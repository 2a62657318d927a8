'use client';
import type { Seen } from '@/core/picture';
import { plural } from '@/core/wording';
import { FindCase } from '../cases/editor/FindCase';
import { useTaken } from '../cases/editor/useTaken';
import { Justify } from '../coverage/Justify';
import type { useDrafts } from '../drafts/useDrafts';
import type { FoundLens } from './useLens';

interface LensPaneProps {
  readonly slug: string;
  readonly found: FoundLens | undefined;
  readonly problem: string | undefined;
  readonly chosen: Seen | undefined;
  readonly drafts: ReturnType<typeof useDrafts>;
  readonly justify: (part: string, logic: string, reason: string) => void;
}

/** Above a drawing with coverage laid over it: how much of it was done, and of the part that is chosen what is missing, with the ways to a case. */
export function LensPane({ slug, found, problem, chosen, drafts, justify }: LensPaneProps) {
  const take = useTaken(slug, drafts);
  if (problem) return <p className="text-fail">{problem}</p>;
  if (!found) return <p className="text-soft">Running all cases …</p>;
  const [part] = chosen?.parts ?? [];
  return (
    <section aria-label="Coverage" className="sticky top-0 left-0 z-10 mt-1 border-key border-l-[3px] bg-tint px-3 py-1.5">
      <p>
        {plural(found.cases, 'case')}: {sentenceOf(found)} {!chosen && found.lens.states.size > 0 && 'Choose a count to see more of it.'}
      </p>
      {chosen && part && (
        <div role="status">
          <p className="figure mt-1 text-[13px]">
            {chosen.words}: {chosen.count > 0 ? `×${chosen.count}` : 'never'}
          </p>
          {chosen.gap !== undefined && (
            <>
              <p className="text-lack">
                {chosen.gap} <Justify justify={(reason) => justify(part.id, found.marks.get(part.id) ?? '', reason)} />
              </p>
              <FindCase key={part.id} aim={{ loop: part.loop, part: part.id }} words="Find a case" files={drafts.files} take={take} />
            </>
          )}
        </div>
      )}
    </section>
  );
}

/** How much of the drawing was done. */
function sentenceOf({ lens: { states, arrows, slips, lines } }: FoundLens): string {
  const share = (all: Iterable<Seen>): readonly [number, number] => {
    const list = [...all];
    return [list.filter(({ count }) => count > 0).length, list.length];
  };
  const [[entered, allStates], [taken, allArrows]] = [share(states.values()), share(arrows.values())];
  const parts = [
    ...(allStates > 0 ? [`${entered} of ${plural(allStates, 'state')} entered`] : []),
    ...(allArrows > 0 ? [`${taken} of ${plural(allArrows, 'transition')} taken`] : []),
    ...(slips.size > 0 ? ['on each slip, how many of its parts were touched'] : []),
  ];
  if (parts.length > 0) return `${parts.join(', ')}.`;
  return lines.length > 0 ? 'beside the text, how often each decision came out TRUE / FALSE.' : 'there is nothing to count in it.';
}
