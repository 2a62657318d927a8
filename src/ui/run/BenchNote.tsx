import type { BenchRecord } from '@/core/evidence';
import { plural } from '@/core/wording';
import { microseconds } from '../format/microseconds';

/** On which bench a run was made, and how it kept its time. */
export function BenchNote({ of: { bench, build, timing, undecided, attempt } }: { readonly of: BenchRecord }) {
  return (
    <p className="mb-2 text-[13px] text-soft">
      On {bench}
      {build === undefined ? ', whose controller has a program of its own' : `, with the build ${build.slice(0, 12)}`}:{' '}
      {plural(timing.cycles, 'cycle')} of {microseconds(timing.cycleUs)}, 99 of 100 within {microseconds(timing.late99Us)} of their time, the latest{' '}
      {microseconds(timing.longestLateUs)} after it; exchanges took {microseconds(timing.medianExchangeUs)} in the median,{' '}
      {microseconds(timing.longestExchangeUs)} at most.
      {undecided !== undefined &&
        ` A pause may have decided ${plural(undecided, 'verdict')}: ${undecided === 1 ? 'it counts' : 'they count'} for nothing.`}
      {attempt !== undefined && ` It is attempt ${attempt}: those before missed their time, or left something open.`} What was recorded is kept: a run
      on a bench cannot be made again bit by bit.
    </p>
  );
}
