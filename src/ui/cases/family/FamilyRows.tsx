'use client';
import Link from 'next/link';
import type { Family, FamilyGoal, LeftGoal } from '@/core/design';
import { marginWords, timeWords } from '@/core/wording';
import { Justify } from '../../coverage/Justify';
import { Sentence } from '../../parts/Sentence';

interface FamilyRowsProps {
  readonly slug: string;
  readonly family: Family;
  /** What a search has not reached yet. */
  readonly left: readonly LeftGoal[];
  /** Cases that were found and not accepted yet. */
  readonly proposed: readonly string[];
  readonly reject: (part: string, mark: string, reason: string) => void;
}

/** The goals of each criterion: what, and which case reaches it when. */
export function FamilyRows({ slug, family, left, proposed, reject }: FamilyRowsProps) {
  const nearest = new Map(left.map((one) => [one.id, one.nearest]));
  return family.criteria.map(({ name, sentence, goals }) => (
    <section key={name} className="mt-6" aria-label={name}>
      <h2 className="font-bold">{name}</h2>
      <Sentence text={sentence} />
      <table className="mt-1 w-full border-collapse">
        <tbody>
          {goals.map((goal) => (
            <tr key={goal.id} className="border-rule border-b align-top">
              <td className="py-1.5 pr-4">
                {goal.says}
                {goal.margin && <span className="figure whitespace-nowrap text-soft"> least margin {marginWords(goal.margin)}</span>}
                <div className="text-[13px]">
                  {nearest.get(goal.id) !== undefined && isOpen(goal) && <span className="block text-soft">{nearest.get(goal.id)}</span>}
                  {isOpen(goal) && goal.kind !== 'least' && <Rejecting goal={goal} reject={reject} />}
                </div>
              </td>
              <td className="w-[42%] py-1.5 text-[13px]">
                <ReachedBy slug={slug} goal={goal} proposed={proposed} isFound={left.length > 0 && goal.kind !== 'least' && !nearest.has(goal.id)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  ));
}

/** No case reaches it, or one might with less margin. */
function isOpen({ kind, reachedBy }: FamilyGoal): boolean {
  return kind === 'least' || reachedBy.length === 0;
}

function Rejecting({ goal: { id, mark, rejected, lapsed }, reject }: { readonly goal: FamilyGoal; readonly reject: FamilyRowsProps['reject'] }) {
  if (rejected)
    return (
      <span className="text-soft">
        {rejected.reason} ({rejected.by}, {rejected.on})
      </span>
    );
  return (
    <>
      {lapsed && (
        <span className="block font-serif text-lack italic">
          It was rejected by {lapsed.by} on {lapsed.on}; the criterion has changed since: “{lapsed.reason}”
        </span>
      )}
      <Justify justify={(reason) => reject(id, mark, reason)} does="Reject" asks="Why it need not be reached" />
    </>
  );
}

/** Most cases that are named in a row. */
const mostNamed = 3;

interface ReachedByProps extends Pick<FamilyRowsProps, 'slug' | 'proposed'> {
  readonly goal: FamilyGoal;
  /** The search that goes on has reached it. */
  readonly isFound: boolean;
}

function ReachedBy({ slug, goal, proposed, isFound }: ReachedByProps) {
  const { kind, reachedBy, rejected } = goal;
  if (reachedBy.length === 0 && !rejected && isFound) return <span>found: take it, or look on</span>;
  if (reachedBy.length === 0)
    return <span className="text-lack">{rejected ? 'rejected' : kind === 'least' ? 'no case triggers it with a margin' : 'no case reaches it'}</span>;
  const more = reachedBy.length - mostNamed;
  return (
    <ul>
      {reachedBy.slice(0, mostNamed).map((one) => (
        <li key={one.case}>
          {proposed.includes(one.case) ? (
            <span className="font-semibold">{one.case}, found just now</span>
          ) : (
            <Link className="underline decoration-rule" href={`/p/${slug}/cases/edit?case=${encodeURIComponent(one.case)}`}>
              {one.case}
            </Link>
          )}
          {one.at !== undefined && <span className="figure text-soft"> at {timeWords(one.at)}</span>}
        </li>
      ))}
      {more > 0 && <li className="text-soft">and {more} more</li>}
    </ul>
  );
}
