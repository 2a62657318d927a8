'use client';
import { Choice } from '../../parts/Choice';
import { PickByName } from '../../parts/PickByName';
import { Part, type PartProps } from './Part';

/** How the cases of a campaign are chosen, by the key of the document that says it. */
const ways = { all: 'all cases', named: 'cases by name', meant_for: 'cases meant for', tags: 'cases with a tag' } as const;
type Way = keyof typeof ways;

/** Which cases are run. */
export function CasesPart({ view, change }: PartProps) {
  const { raw, cases, allCases, tags, requirements } = view;
  const way = wayOf(raw?.cases);
  const listed = listedIn(raw?.cases, way);
  const offered: Readonly<Record<Way, readonly string[]>> = { all: [], named: allCases, meant_for: requirements, tags };
  const set = (next: Way, values: readonly string[]): void =>
    change({ path: ['cases'], value: next === 'all' ? 'all' : values.length === 1 && next === 'named' ? values[0] : { [next]: values } });
  const choose = (next: Way): void => {
    const [first] = offered[next];
    if (next === 'all' || first !== undefined) set(next, first === undefined ? [] : [first]);
  };
  return (
    <Part word="Cases">
      <div className="flex flex-wrap items-center gap-2">
        <Choice label="" named="Which cases" value={way} options={waysOffered(offered)} choose={choose} />
        {listed.map((one) => (
          <Chip
            key={one}
            words={one}
            drop={
              listed.length > 1
                ? () =>
                    set(
                      way,
                      listed.filter((other) => other !== one),
                    )
                : undefined
            }
          />
        ))}
        {way !== 'all' && (
          <PickByName
            words="Add"
            label={`Find ${way === 'named' ? 'a case' : way === 'tags' ? 'a tag' : 'a requirement'}`}
            items={offered[way].filter((one) => !listed.includes(one)).map((name) => ({ name, unit: '', about: '' }))}
            take={({ name }) => set(way, [...listed, name])}
          />
        )}
      </div>
      {way !== 'named' && <p className="mt-1.5 text-[12.5px] text-soft">{cases.join(' · ')}</p>}
    </Part>
  );
}

function waysOffered(offered: Readonly<Record<Way, readonly string[]>>): (readonly [Way, string])[] {
  return (Object.keys(ways) as Way[]).filter((way) => way === 'all' || offered[way].length > 0).map((way) => [way, ways[way]] as const);
}

type Written = NonNullable<PartProps['view']['raw']>['cases'];

function wayOf(written: Written): Way {
  if (written === undefined || written === 'all') return 'all';
  if (typeof written === 'string' || 'length' in written || written.named) return 'named';
  return written.meant_for ? 'meant_for' : 'tags';
}

function listedIn(written: Written, way: Way): readonly string[] {
  if (written === undefined || way === 'all') return [];
  if (typeof written === 'string') return [written];
  return 'length' in written ? written : (written[way] ?? []);
}

function Chip({ words, drop }: { readonly words: string; readonly drop: (() => void) | undefined }) {
  return (
    <span className="inline-flex items-center gap-1.5 rounded border border-rule bg-sheet px-2 py-1">
      {words}
      {drop && (
        <button type="button" aria-label={`Leave out ${words}`} className="text-soft hover:text-ink" onClick={drop}>
          leave out
        </button>
      )}
    </span>
  );
}
