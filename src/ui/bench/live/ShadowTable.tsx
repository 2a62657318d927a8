import { useState } from 'react';
import { type SignalComparison, trustedLoop } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { decode } from '@/core/exchange';
import { figure, percent, timeWords } from '@/core/wording';
import { saveRevision } from '../../drafts/saveRevision';
import type { LiveBench } from './useLiveBench';
import { valueWords } from './valueWords';

interface ShadowProps {
  readonly slug: string;
  readonly live: LiveBench;
  /** The document of the loop that runs, into which a span that is trusted is written. */
  readonly loopFile: string;
}

/** The plant that runs beside the process: how each signal agrees so far, and where the one can stand for the other. */
export function ShadowTable({ slug, live, loopFile }: ShadowProps) {
  const [told, setTold] = useState('');
  const { shadowed, agreement } = live;
  const last = live.moments.at(-1)?.shadow;
  if (!shadowed) return null;
  const trust = async (signal: SignalComparison): Promise<void> => setTold(await written(slug, loopFile, signal, shadowed.loop));
  return (
    <section aria-label="Shadow" className="mt-5 max-w-[1180px]">
      <h2 className="font-bold">The plant of {shadowed.loop} runs beside</h2>
      {last?.problem && <p className="text-fail">It stopped: {last.problem}.</p>}
      {agreement && <p className="mt-0.5 mb-2">{agreement.words}</p>}
      {told && <p role="status">{told}</p>}
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-rule border-b text-left text-[12.5px] text-soft">
            <th className="py-1 font-normal">signal</th>
            <th className="text-right font-normal">process</th>
            <th className="pl-3 text-right font-normal">model</th>
            <th className="pl-3 text-right font-normal">largest gap</th>
            <th className="pl-3 text-right font-normal">same way</th>
            <th className="pl-6 font-normal">trust</th>
          </tr>
        </thead>
        <tbody>
          {shadowed.signals.map(({ name, unit, type }, index) => {
            const found = agreement?.signals.find((one) => one.name === name);
            return (
              <tr key={name} className="border-rule border-b">
                <td className="py-1">{name}</td>
                <td className="figure text-right">{valueWords({ type, unit }, last?.process[index])}</td>
                <td className="figure pl-3 text-right text-soft">{valueWords({ type, unit }, last?.model[index])}</td>
                <td className={`figure pl-3 text-right ${found && !found.agrees ? 'text-fail' : 'text-soft'}`}>
                  {found && `${figure(found.largest, 3)} at ${timeWords(found.largestAt)}`}
                </td>
                <td className="figure pl-3 text-right text-soft">{found && percent(found.trend)}</td>
                <td className="pl-6">
                  {found?.between && type !== 'BOOL' && (
                    <>
                      <span className="figure">
                        from {figure(found.between.low, 4)} to {figure(found.between.high, 4)} {unit}
                      </span>{' '}
                      <button type="button" className="underline decoration-rule" onClick={() => void trust(found)}>
                        write it down
                      </button>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

/** Writes the span into the document of the loop. @returns what became of it */
async function written(slug: string, loopFile: string, signal: SignalComparison, loop: string): Promise<string> {
  const response = await fetch(`/api/projects/${slug}/revisions`).catch(() => undefined);
  if (!response?.ok) return 'The server does not answer. Try again.';
  const { revision, files } = decode(await response.text()) as { readonly revision: number; readonly files: readonly SourceFile[] };
  const file = files.find((one) => one.path === loopFile);
  const changed = file && trustedLoop(file, signal, `run beside the process of the bench by the plant of ${loop}`);
  if (!changed) return 'The document of the loop cannot be changed.';
  const saved = await saveRevision(slug, revision, [changed]);
  return typeof saved === 'string'
    ? saved
    : `Written down in revision ${saved.revision}: a run that leaves this span of ${signal.name} gives no pass.`;
}
