'use client';
import { useMemo } from 'react';
import type { Answered } from '@/core/compare';
import { figure, timeWords } from '@/core/wording';
import { useAddress } from '../hooks/useAddress';
import { useAsked } from '../hooks/useAsked';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { NumberField } from '../parts/NumberField';

const ways = ['rises', 'falls', 'goes both ways'] as const;

/** The quickest look at whether signs are right: one input is pushed, and everything that answers is listed by its way. */
export function ProbeView({ newest }: { readonly newest: Revision }) {
  const files = useFilesOf(newest);
  const [name, setName] = useAddress('case');
  const [input, setInput] = useAddress('input');
  const [at, setAt] = useAddress('at');
  const [by, setBy] = useAddress('by');
  const ask = useMemo(
    () => ({ files, ...(name ? { case: name } : {}), ...(input ? { input } : {}), at: numberOr(at, 0), by: numberOr(by, 1) }),
    [files, name, input, at, by],
  );
  const { found, problem } = useAsked('probe', ask);
  const chosen = found?.inputs.find((one) => one.name === found.input);
  const staying = found?.found.filter((one) => one.way === 'stays') ?? [];
  const elsewhere = found?.found.filter((one) => one.way === 'in another state') ?? [];
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{problem ?? found?.words ?? 'Simulating both runs …'}</h1>
      {found && (
        <>
          <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <Choice
              label="Case"
              value={found.of}
              options={found.cases}
              choose={(next) => {
                setInput(undefined);
                setName(next);
              }}
            />
            <Choice label="Push" value={found.input} options={found.inputs.map((one) => one.name)} choose={setInput} />
            {chosen?.isTruth ? (
              <span className="text-soft">reversed</span>
            ) : (
              <NumberField label="by" unit={chosen?.unit ?? ''} value={by ?? '1'} set={setBy} />
            )}
            <NumberField label="at" unit="s" value={at ?? '0'} least={0} set={setAt} />
          </div>
          <div className="mt-4 grid grid-cols-3 gap-8 border-ink border-t pt-4">
            {ways.map((way) => (
              <Answers key={way} way={way} found={found.found.filter((one) => one.way === way)} />
            ))}
          </div>
          {elsewhere.length > 0 && (
            <p className="mt-6 text-[13px]">In other states: {elsewhere.map((one) => `${one.name} from ${timeWords(one.from ?? 0)}`).join(', ')}</p>
          )}
          {staying.length > 0 && (
            <p className="mt-3 text-[13px] text-soft">
              <span className="text-ink">As before:</span> {staying.map((one) => one.name).join(', ')}
            </p>
          )}
        </>
      )}
    </main>
  );
}

function numberOr(text: string | undefined, otherwise: number): number {
  const number = Number(text);
  return text === undefined || text.trim() === '' || Number.isNaN(number) ? otherwise : number;
}

/** Those that go one way, the first to move first: so the push is followed through the loop. */
function Answers({ way, found }: { readonly way: (typeof ways)[number]; readonly found: readonly Answered[] }) {
  const ordered = [...found].sort((a, b) => (a.from ?? 0) - (b.from ?? 0));
  return (
    <section>
      <h2 className="border-ink border-b pb-1 font-semibold text-[15px]">
        {way} <span className="figure font-normal text-soft">{found.length}</span>
      </h2>
      <ul aria-label={way}>
        {ordered.map((one) => (
          <li key={one.name} className="grid grid-cols-[1fr_auto] gap-x-3 border-rule border-b py-1 text-[13px]">
            <span className="truncate">{one.name}</span>
            <span className="figure text-right">
              {one.largest > 0 ? '+' : ''}
              {figure(one.largest)} {one.unit} <span className="text-soft">from {timeWords(one.from ?? 0)}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
