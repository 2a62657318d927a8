'use client';
import { Choice } from '../../parts/Choice';
import { NumberField } from '../../parts/NumberField';
import { Part, type PartProps } from './Part';

/** Designs with what they do, in the words of a composer. */
const designs = [
  ['grid', 'every value with every other'],
  ['together', 'the first values together, then the second'],
  ['covering strength 2', 'every pair of values once, in few runs'],
  ['random', 'drawn at random'],
  ['latin hypercube', 'drawn evenly, each quantity by itself (Latin hypercube)'],
  ['sobol', 'drawn evenly, all quantities together (Sobol)'],
] as const;
type DesignName = (typeof designs)[number][0];

const drawn: ReadonlySet<string> = new Set(['random', 'latin hypercube', 'sobol']);
const usualRuns = 100;

/** In which combinations, how often, with which random numbers. */
export function DesignPart({ view, change }: PartProps) {
  const { raw } = view;
  const scatters = Object.values(raw?.vary ?? {}).some((one) => !('from' in one) && !('list' in one));
  const design = designs.find(([name]) => name === raw?.design?.toLowerCase())?.[0] ?? (scatters ? 'random' : 'grid');
  const isDrawn = drawn.has(design);
  const choose = (next: DesignName): void =>
    change({ path: ['design'], value: next }, { path: ['runs'], value: drawn.has(next) ? (raw?.runs ?? usualRuns) : undefined });
  const setRuns = (text: string): void => {
    const runs = Math.round(Number(text));
    if (runs >= 1 && runs !== raw?.runs) change({ path: ['runs'], value: runs });
  };
  const setSeed = (text: string): void => {
    const seed = Math.round(Number(text));
    if (seed >= 0 && seed !== (raw?.seed ?? 0)) change({ path: ['seed'], value: seed });
  };
  return (
    <Part word="Design">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="" named="In which combinations" value={design} options={designs} choose={choose} />
        {isDrawn && (
          <NumberField key={`runs ${raw?.runs}`} label="Runs of each case" unit="" value={String(raw?.runs ?? usualRuns)} least={1} set={setRuns} />
        )}
        <NumberField key={`seed ${raw?.seed}`} label="Seed" unit="" value={String(raw?.seed ?? 0)} least={0} set={setSeed} />
        <Choice
          label="Noise"
          value={raw?.seeds ?? 'one each'}
          options={[
            ['one each', 'its own in each run'],
            ['same', 'the same in all runs'],
          ]}
          choose={(seeds) => change({ path: ['seeds'], value: seeds === 'one each' ? undefined : seeds })}
        />
      </div>
    </Part>
  );
}
