import Link from 'next/link';
import type { Verdict } from '@/core/criteria';

/** A run of a case on a bench. */
export interface BenchRunLine {
  readonly runId: number;
  readonly case: string;
  readonly bench: string;
  readonly verdict: Verdict;
  /** What became of it in words: why it is an error, or how it compares with the model. */
  readonly words: string;
}

/** The newest run of each case on a bench. */
export function BenchRuns({ slug, runs }: { readonly slug: string; readonly runs: readonly BenchRunLine[] }) {
  return (
    <section aria-label="Runs" className="mt-6 max-w-[1100px]">
      <h2 className="mb-1 font-bold">Runs here</h2>
      <ul>
        {runs.map((run) => (
          <li key={run.runId} className="flex gap-3 border-rule border-b py-1">
            <span
              className={`w-24 shrink-0 ${run.verdict === 'pass' ? 'text-pass' : run.verdict === 'fail' || run.verdict === 'error' ? 'text-fail' : 'text-lack'}`}
            >
              {run.verdict}
            </span>
            <Link className="w-72 shrink-0 underline decoration-rule" href={`/p/${slug}/runs/${run.runId}`}>
              {run.case}
            </Link>
            <span className="text-soft">{run.words}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
