import { lateClasses } from '@/core/evidence';
import type { BenchMoment } from '@/core/project';
import { plural } from '@/core/wording';
import { microseconds } from '../../format/microseconds';

/** How the bench keeps its time: how late cycles begin, in classes, and what the exchange takes. Times are the wall's. */
export function Timing({ moment }: { readonly moment: BenchMoment | undefined }) {
  if (!moment) return null;
  const { timing } = moment;
  const most = Math.max(1, ...timing.late.map((count) => Math.log1p(count)));
  return (
    <section aria-label="Timing" className="mt-4 flex flex-wrap items-end gap-6">
      <svg width={lateClasses.length * 16 + 16} height={58} role="img" aria-label="How late cycles began">
        {timing.late.map((count, index) => {
          const height = (Math.log1p(count) / most) * 40;
          return (
            <g key={lateClasses[index] ?? 'more'}>
              <rect x={index * 16} y={42 - height} width={13} height={height} fill={isLate(index, timing.cycleUs) ? 'var(--fail)' : 'var(--soft)'}>
                <title>{`${plural(count, 'cycle')} ${lateClasses[index] === undefined ? 'later than 50 ms' : `up to ${microseconds(lateClasses[index])} late`}`}</title>
              </rect>
            </g>
          );
        })}
        <line x1={0} x2={lateClasses.length * 16 + 13} y1={42.5} y2={42.5} stroke="var(--rule)" />
        <text x={0} y={54} fontSize={10} fill="var(--soft)">
          50 µs
        </text>
        <text x={6 * 16} y={54} fontSize={10} fill="var(--soft)">
          1 ms
        </text>
        <text x={11 * 16} y={54} fontSize={10} fill="var(--soft)">
          10 ms
        </text>
      </svg>
      <p className="text-soft">
        {plural(timing.cycles, 'cycle')} of {microseconds(timing.cycleUs)}: in the median {microseconds(timing.medianLateUs)} late, 99 of 100 within{' '}
        {microseconds(timing.late99Us)}, the latest {microseconds(timing.longestLateUs)}.
        <br />
        An exchange takes {microseconds(timing.medianExchangeUs)}, at most {microseconds(timing.longestExchangeUs)}.{' '}
        <span className={timing.overruns + timing.controllerOverruns > 0 ? 'text-fail' : ''}>
          Overruns: {timing.overruns} of the bench, {timing.controllerOverruns} of the controller.
        </span>
      </p>
    </section>
  );
}

/** A class that only cycles are in which have missed their time. */
function isLate(index: number, cycleUs: number): boolean {
  return (lateClasses[index - 1] ?? 0) >= cycleUs;
}
