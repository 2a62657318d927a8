'use client';
import { useMemo, useState } from 'react';
import { plural, timeWords } from '@/core/wording';
import { useAddress } from '../hooks/useAddress';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { OtherPickers } from './OtherPickers';
import { SideBySide } from './SideBySide';
import { Trust } from './Trust';
import { useComparison } from './useComparison';
import { nameOf, useOthers } from './useOthers';

const bands = [0.001, 0.01, 0.05];
const ripples = [0, 0.5, 2, 10];

/** Two to six runs or recordings: where the others agree with the first, where they part, and what tells them apart. */
export function CompareView({ slug, newest }: { readonly slug: string; readonly newest: Revision }) {
  const files = useFilesOf(newest);
  const [first, setFirst] = useAddress('first');
  const { others, change, addRecording } = useOthers();
  const [relative, setRelative] = useState(0.01);
  const [ripple, setRipple] = useState(0);
  const [focused, setFocus] = useState(0);
  const settings = useMemo(() => ({ absolute: 0, relative, ripple, turns: {} }), [relative, ripple]);
  const { found, problem } = useComparison(
    files,
    first,
    others.map(({ what }) => what),
    settings,
  );
  // Without a choice it is compared with the next case.
  const keys = others.length > 0 ? others.map(({ key }) => key) : (found?.others.map(({ name }) => `case:${name}`) ?? []);
  const focus = Math.min(focused, Math.max(0, (found?.others.length ?? 1) - 1));
  const other = found?.others[focus];
  const comparison = other?.comparison;
  const name = found && keys[focus] ? nameOf(keys[focus], found, focus) : '';
  const words =
    comparison && found && found.others.length > 1
      ? `${name}: ${comparison.words.charAt(0).toLowerCase()}${comparison.words.slice(1)}`
      : comparison?.words;
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12 max-sm:px-3">
      <h1 className="headline">{problem ?? words ?? (found ? 'The two do not overlap in time.' : 'Simulating the runs …')}</h1>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="First" tone="--s1" options={found?.cases ?? []} value={found?.first ?? ''} choose={setFirst} />
        {found && <OtherPickers found={found} keys={keys} focus={focus} setFocus={setFocus} change={change} addRecording={addRecording} />}
        <Choice label="Band" value={relative} options={bands.map((one) => [one, `± ${100 * one} %`] as const)} choose={setRelative} />
        <Choice
          label="Ripple averaged over"
          value={ripple}
          options={ripples.map((one) => [one, one === 0 ? 'nothing' : timeWords(one)] as const)}
          choose={setRipple}
        />
      </div>
      {found && comparison && (
        <SideBySide found={found} focus={focus} comparison={comparison} band={settings}>
          {(shown) =>
            !keys[focus]?.startsWith('run:') && (
              <Trust
                signal={shown}
                slug={slug}
                revision={newest.revision}
                files={files}
                first={found.first}
                because={`compared with ${becauseOf(keys[focus] ?? '', name)}, within ${100 * relative} %`}
              />
            )
          }
        </SideBySide>
      )}
      {comparison && (comparison.onlyFirst.length > 0 || comparison.onlySecond.length > 0) && (
        <p className="mt-4 text-soft">
          {plural(comparison.onlyFirst.length, 'signal')} of the first and {comparison.onlySecond.length} of the other have no counterpart.
        </p>
      )}
    </main>
  );
}

function becauseOf(key: string, name: string): string {
  if (key.startsWith('recording:')) return name;
  return `${key.startsWith('plant:') ? 'the plant' : 'the case'} ${name}`;
}
