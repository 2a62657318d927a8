import Link from 'next/link';
import { type CriterionState, type LedgerRow, unseenReason } from '@/core/evidence';
import { plural, shortfallWords, timeWords } from '@/core/wording';

interface NextActionProps {
  readonly slug: string;
  readonly row: LedgerRow;
  readonly criterion: CriterionState | undefined;
  /** Where the worst obligation is shown in its run. */
  readonly link: string | undefined;
  readonly casesToRun: readonly string[];
  readonly run: (cases?: readonly string[]) => Promise<void>;
}

/** The one thing to do next about a requirement, with the way there. */
export function NextAction({ slug, row, criterion, link, casesToRun, run }: NextActionProps) {
  const { result, meantCases } = row;
  if (result.state !== 'lacks evidence' && link && criterion?.worst) {
    const { at, obligation } = criterion.worst;
    const by = criterion.margin ? ` by ${shortfallWords(criterion.margin)}` : '';
    const what =
      result.state === 'fail'
        ? `It was due from ${timeWords(obligation.from)} and was broken at ${timeWords(at)}${by}. Open the run there.`
        : `It came closest to being broken at ${timeWords(at)}. Open the run there.`;
    return (
      <>
        <Way what={what} href={link} label={`Open run at ${timeWords(at)}`} />
        {result.state === 'pass' && (
          <Link className="act mt-1.5 ml-2" href={`/p/${slug}/cases/edit?break=${encodeURIComponent(row.id)}`}>
            Try to break it
          </Link>
        )}
      </>
    );
  }
  const cases = meantCases.length > 0 ? meantCases : casesToRun;
  if ((result.reason === 'out of date' || result.reason === 'not run') && cases.length > 0)
    return (
      <button type="button" className="act act-first mt-1.5" onClick={() => void run(cases)}>
        Run {plural(cases.length, 'case')}
      </button>
    );
  return <Way {...wayOf(slug, row)} />;
}

interface WayProps {
  readonly what: string;
  readonly href?: string;
  readonly label?: string;
  /** Where a case is written by hand. */
  readonly byHand?: string;
}

function Way({ what, href, label, byHand }: WayProps) {
  return (
    <>
      <p className="my-1.5">{what}</p>
      {href && (
        <Link className="act act-first" href={href}>
          {label}
        </Link>
      )}
      {byHand && (
        <Link className="act ml-2" href={byHand}>
          Write a case
        </Link>
      )}
    </>
  );
}

/** What helps against a lack of evidence that no further run of the same cases would fix. */
function wayOf(slug: string, { id, result, bearingCases }: LedgerRow): WayProps {
  const { reason } = result;
  const place = `/p/${slug}`;
  const requirement = { href: `${place}/requirements?at=${encodeURIComponent(id)}`, label: `Open ${id}` };
  const deriving = {
    href: `${place}/cases/derive?for=${encodeURIComponent(id)}`,
    label: 'Derive cases',
    byHand: `${place}/cases/edit?for=${encodeURIComponent(id)}`,
  };
  const triggering = bearingCases[0];
  if (reason.startsWith('not tested')) return { what: 'Nothing to run: it is verified in another way.' };
  switch (reason) {
    case 'untriggered':
      return {
        what: 'Have cases found that make its condition happen, or write one: its run is shown while you draw. Or try it by hand at the desk.',
        ...deriving,
      };
    case 'no case':
    case 'not run':
    case 'out of date':
      // The loops that have its names have no case.
      return {
        what: 'Have cases found, or write one: its run is shown while you draw. Or run the loop by hand at the desk, and save what you did.',
        ...deriving,
      };
    case unseenReason:
      return { what: 'Make the value an output of the controller, or word the criterion with what its outputs show.', ...requirement };
    case 'not read yet':
      return { what: 'Write a criterion for it. Vague words need a number first.', ...requirement };
    case 'reading not confirmed':
      return { what: 'Check the proposed sentence, and accept it.', ...requirement };
    case 'inconclusive':
      return { what: 'Let the case run longer: the trace ended before it was decided.', href: `${place}/cases`, label: 'Open the cases' };
    default:
      return {
        what: 'Fix what made the run unusable as evidence.',
        ...(triggering ? { href: `${place}/runs/${triggering.runId}?requirement=${encodeURIComponent(id)}`, label: 'Open the run' } : {}),
      };
  }
}
