'use client';
import { figure } from '@/core/wording';
import { Choice } from '../../parts/Choice';
import { NumberField } from '../../parts/NumberField';
import { Part, type PartProps } from './Part';

const ways = [
  ['all', 'after all runs'],
  ['first fail', 'with the first run that fails'],
  ['claim', 'once a claim is decided'],
] as const;
type Way = (typeof ways)[number][0];

/** A share written as a number or in percent, in percent. */
function percentOf(written: unknown, usual: number): number {
  const text = String(written ?? '');
  const number = Number.parseFloat(text);
  return Number.isFinite(number) ? Number((text.includes('%') ? number : number * 100).toPrecision(6)) : usual;
}

/** When the runs end. */
export function StopPart({ view, change }: PartProps) {
  const stop = view.raw?.stop;
  const way: Way = typeof stop === 'object' ? 'claim' : (stop ?? 'all');
  const claim = typeof stop === 'object' ? stop : undefined;
  const choose = (next: Way): void =>
    change({
      path: ['stop'],
      value: next === 'all' ? undefined : next === 'first fail' ? next : { claim: view.requirements[0], at_most: '1 %', confidence: '95 %' },
    });
  const setPercent = (key: 'at_most' | 'confidence') => (text: string) => {
    const number = Number(text.replace(',', '.'));
    if (number > 0 && number < 100 && number !== percentOf(claim?.[key], Number.NaN))
      change({ path: ['stop', key], value: `${figure(number, 6)} %` });
  };
  return (
    <Part word="Ends">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="" named="When the runs end" value={way} options={view.requirements.length > 0 ? ways : ways.slice(0, 2)} choose={choose} />
        {claim && (
          <>
            <Choice label="that" value={claim.claim} options={view.requirements} choose={(id) => change({ path: ['stop', 'claim'], value: id })} />
            <NumberField
              key={`at most ${String(claim.at_most)}`}
              label="fails in at most"
              unit="%"
              value={String(percentOf(claim.at_most, 1))}
              set={setPercent('at_most')}
            />
            <NumberField
              key={`confidence ${String(claim.confidence)}`}
              label="of runs, at"
              unit="% confidence"
              value={String(percentOf(claim.confidence, 95))}
              set={setPercent('confidence')}
            />
          </>
        )}
      </div>
    </Part>
  );
}
