'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type CampaignView, type CriterionPictures, levelWords } from '@/core/campaign';
import { figure } from '@/core/wording';
import { saveRevision } from '../../drafts/saveRevision';
import { askEngine } from '../../engine/engine';
import { openRuns } from './openRuns';

interface WorstRunsProps {
  readonly slug: string;
  readonly revision: number;
  readonly view: CampaignView;
  readonly pictures: CriterionPictures;
}

/** The runs with the least margins: each can be opened, or made a case of. */
export function WorstRuns({ slug, revision, view, pictures: { worst, unit } }: WorstRunsProps) {
  const router = useRouter();
  const [told, setTold] = useState<{ readonly run: number; readonly words: string; readonly name?: string }>();
  const id = view.progress.id;
  const makeCase = async (run: number): Promise<void> => {
    setTold({ run, words: 'Making a case of it …' });
    const name = `${view.document}, run ${run}`;
    try {
      await openRuns(id, view.document);
      const made = await askEngine('case of run', { number: run, name });
      const saved = await saveRevision(slug, revision, [made]);
      if (typeof saved === 'string') return setTold({ run, words: saved });
      setTold({ run, words: `Saved as revision ${saved.revision}.`, name });
      router.refresh();
    } catch (problem) {
      setTold({ run, words: problem instanceof Error ? problem.message : String(problem) });
    }
  };
  return (
    <section className="mt-7" aria-label="Runs with the least margins">
      <h2 className="font-bold">Runs with the least margins</h2>
      <table className="mt-1 w-full border-collapse">
        <thead>
          <tr className="border-ink border-b text-left text-soft">
            <th className="py-1 pr-3 font-normal">Run</th>
            {view.quantities.map((one) => (
              <th key={one.name} className="py-1 pr-3 font-normal" title={one.name}>
                {one.short} <span className="figure">{one.unit}</span>
              </th>
            ))}
            <th className="py-1 pr-3 text-right font-normal">
              Margin <span className="figure">{unit}</span>
            </th>
            <th className="py-1 font-normal" />
          </tr>
        </thead>
        <tbody>
          {worst.map(({ number, point, margin, verdict }) => (
            <tr key={number} className="border-rule border-b">
              <td className="py-1 pr-3">
                <Link className="underline decoration-rule" href={`/p/${slug}/campaigns/${id}/runs/${number}`}>
                  run {number}
                </Link>
              </td>
              {point.map((level, index) => (
                <td key={view.quantities[index]?.name} className="figure py-1 pr-3">
                  {levelWords(level)}
                </td>
              ))}
              <td className={`figure py-1 pr-3 text-right ${verdict === 'fail' ? 'font-bold text-fail' : ''}`}>{figure(margin, 4)}</td>
              <td className="py-1 text-right text-[13px]">
                {told?.run === number ? (
                  <span role="status">
                    {told.words}{' '}
                    {told.name && (
                      <Link className="underline" href={`/p/${slug}/cases#${encodeURIComponent(told.name)}`}>
                        Show the case
                      </Link>
                    )}
                  </span>
                ) : (
                  <>
                    <Link
                      className="mr-3 underline decoration-rule"
                      href={`/p/${slug}/cases/compare?with=${encodeURIComponent(`run:${id}.${number}.${view.document}`)}`}
                    >
                      Compare with the case as it is
                    </Link>
                    <button type="button" className="underline decoration-rule" onClick={() => void makeCase(number)}>
                      Make a case of it
                    </button>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
