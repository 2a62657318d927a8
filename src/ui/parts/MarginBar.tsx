import { type CriterionState, type RequirementResult, reasonWords } from '@/core/evidence';
import { marginWords, plural } from '@/core/wording';

/** The criterion that decides a requirement's bar: a failing one, else the one nearest to breaking. */
export function deciding(result: RequirementResult): CriterionState | undefined {
  const measure = (one: CriterionState): number => one.margin?.measure ?? Number.POSITIVE_INFINITY;
  const failing = result.criteria.filter((one) => one.verdict === 'fail');
  const among = failing.length > 0 ? failing : result.criteria;
  return among.reduce<CriterionState | undefined>((best, one) => (best && measure(best) <= measure(one) ? best : one), undefined);
}

/** Longer margins grow slowly, so that small ones stay apart: length is a share of 0 … 1. */
function share(measure: number): number {
  const size = Math.abs(measure);
  return size / (size + 1);
}

const [width, height, limit] = [118, 18, 44];

/**
 * Our sign for a verdict: an upright limit line; to its right a bar as long as the margin (pass), to its left a pointed one (fail),
 * a dashed empty box where evidence is lacking, hatched where it is out of date.
 */
export function MarginBar({ result, outOfDate }: { readonly result: RequirementResult; readonly outOfDate?: RequirementResult | undefined }) {
  const shown = outOfDate ?? result;
  const criterion = deciding(shown);
  const state = outOfDate ? (shown.state === 'lacks evidence' ? 'lacks evidence' : shown.state) : result.state;
  const length = criterion?.margin ? share(criterion.margin.measure) : 0.5;
  const obligations = shown.criteria.reduce((sum, one) => sum + one.obligations, 0);
  const figure = criterion?.margin && state !== 'lacks evidence' ? marginWords(criterion.margin) : '';
  return (
    <div>
      <svg width={width} height={height} role="img" aria-label={outOfDate ? `out of date, was ${state}` : state}>
        <title>{outOfDate ? `out of date, was ${state}` : state}</title>
        <defs>
          <pattern id="hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="2.2" height="5" fill="var(--lack)" />
          </pattern>
        </defs>
        {state === 'lacks evidence' && <rect x={limit} y={4} width={54} height={10} fill="none" stroke="var(--lack)" strokeDasharray="3 3" />}
        {state === 'pass' && <rect x={limit} y={4} width={10 + length * 60} height={10} fill={outOfDate ? 'url(#hatch)' : 'var(--pass)'} />}
        {state === 'fail' && (
          <path d={`M${limit} 4H${limit - 8 - length * 26}l-6 5 6 5H${limit}z`} fill={outOfDate ? 'url(#hatch)' : 'var(--fail)'} />
        )}
        <line x1={limit} x2={limit} y1={0} y2={height} stroke="var(--ink)" strokeWidth={1.5} />
      </svg>
      <div className="figure leading-tight">
        {figure && <span className={outOfDate ? 'text-lack' : state === 'fail' ? 'font-bold text-fail' : ''}>{figure}</span>}{' '}
        {obligations > 0 && <span className="text-lack">×{obligations} </span>}
        {state !== 'pass' && state !== 'fail' && <span className="text-lack">{reasonWords({ ...result, reason: briefly(result.reason) })}</span>}
      </div>
      {outOfDate && <div className="font-serif text-[12px] italic text-lack">out of date</div>}
      <span className="sr-only">{plural(obligations, 'obligation')}</span>
    </div>
  );
}

/** The reason without the names in it; those are told in the drawer. */
function briefly(reason: string): string {
  return reason.replace(/[ :]+(in )?".*$/s, '');
}
