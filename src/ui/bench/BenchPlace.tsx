'use client';
import type { ReactNode } from 'react';
import type { BenchView, BuildView, PairingOffer, PairingView, ProposedBench } from '@/core/project';
import { useAddress } from '../hooks/useAddress';
import { useWalk } from '../hooks/useWalk';
import { BuildPage, stateOfBuild } from './BuildPage';
import type { BenchRunLine } from './live/BenchRuns';
import { RigView } from './live/RigView';
import { Proposal } from './Proposal';
import { NewPairing } from './pairing/NewPairing';
import { PairingPage } from './pairing/PairingPage';

interface PlaceProps {
  readonly slug: string;
  readonly revision: number;
  readonly benches: readonly BenchView[];
  /** A sheet for each loop that has a controller and no bench. */
  readonly proposed: readonly ProposedBench[];
  readonly builds: readonly BuildView[];
  readonly pairings: readonly PairingView[];
  /** Which controllers could be taken to which other loops. */
  readonly offers: readonly PairingOffer[];
  /** Names of the cases of each loop, by its key. */
  readonly cases: Readonly<Record<string, readonly string[]>>;
  readonly runs: readonly BenchRunLine[];
}

/** Benches, what was made of the controllers of each loop, and what other loops they run in. */
export function BenchPlace({ slug, revision, benches, proposed, builds, pairings, offers, cases, runs }: PlaceProps) {
  const [at, setAt] = useAddress('at');
  const items = [
    ...benches.map(({ bench }) => `bench ${bench}`),
    ...proposed.map(({ key }) => `wire ${key}`),
    ...builds.map(({ key }) => `build ${key}`),
    ...pairings.map(({ raw }) => `pair ${raw.pairing}`),
    ...(offers.length > 0 ? ['pair'] : []),
  ];
  const shown = at !== undefined && items.includes(at) ? at : items[0];
  const onKeyDown = useWalk(items, shown, setAt);
  if (shown === undefined) return <p className="px-6 pt-5">A loop comes first: its controllers become code here, and run on a bench.</p>;
  const bench = benches.find((one) => `bench ${one.bench}` === shown);
  const wired = proposed.find((one) => `wire ${one.key}` === shown);
  const pairing = pairings.find((one) => `pair ${one.raw.pairing}` === shown);
  const build = builds.find((one) => `build ${one.key}` === shown);
  const entry = (key: string, title: string, state: string, isSound: boolean): ReactNode => (
    <li key={key}>
      <button
        type="button"
        aria-current={key === shown}
        onClick={() => setAt(key)}
        className={`w-full border-l-[3px] px-2.5 py-1.5 text-left ${key === shown ? 'border-ink bg-tint' : 'border-transparent hover:bg-tint'}`}
      >
        <span className="block font-semibold">{title}</span>
        <span className={`text-[12.5px] ${isSound ? 'text-soft' : 'text-lack'}`}>{state}</span>
      </button>
    </li>
  );
  return (
    <div className="panes grid h-full grid-cols-[260px_1fr]">
      <nav aria-label="Benches, builds and pairings" className="h-full overflow-y-auto border-rule border-r px-3 pt-4 pb-10">
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys */}
        <ul tabIndex={0} onKeyDown={onKeyDown}>
          {benches.length + proposed.length > 0 && <li className="px-2.5 pb-1 font-bold">Benches</li>}
          {benches.map((one) =>
            entry(`bench ${one.bench}`, one.bench, one.faults.length === 0 ? `runs ${one.loop}` : 'does not fit', one.faults.length === 0),
          )}
          {proposed.map((one) => entry(`wire ${one.key}`, one.loop, 'no bench yet', false))}
          <li className="px-2.5 pt-4 pb-1 font-bold">Builds</li>
          {builds.map((one) => entry(`build ${one.key}`, one.loop, stateOfBuild(one), one.made?.isCurrent === true))}
          {pairings.length + offers.length > 0 && <li className="px-2.5 pt-4 pb-1 font-bold">Pairings</li>}
          {pairings.map((one) =>
            entry(
              `pair ${one.raw.pairing}`,
              one.raw.pairing,
              one.isSameBuild ? `controller of ${one.raw.controller}` : 'another build',
              one.isSameBuild,
            ),
          )}
          {offers.length > 0 && entry('pair', 'Another loop …', 'take a controller to it', true)}
        </ul>
      </nav>
      <main className="h-full overflow-y-auto px-6 pt-5 pb-10">
        {bench && (
          <RigView
            key={bench.bench}
            slug={slug}
            revision={revision}
            of={bench}
            cases={cases[bench.loop.toLowerCase()] ?? []}
            allCases={casesOf(bench, cases)}
            runs={runs.filter((one) => casesOf(bench, cases).includes(one.case))}
          />
        )}
        {wired && <Proposal slug={slug} revision={revision} of={wired} />}
        {pairing && <PairingPage key={`${pairing.raw.pairing} ${revision}`} slug={slug} revision={revision} of={pairing} />}
        {shown === 'pair' && (
          <NewPairing slug={slug} revision={revision} offers={offers} taken={builds.map((one) => one.loop)} open={(name) => setAt(`pair ${name}`)} />
        )}
        {build && <BuildPage slug={slug} of={build} />}
      </main>
    </div>
  );
}

/** Cases of a loop and of its variants, which run on its bench as well. */
function casesOf({ loop }: BenchView, cases: PlaceProps['cases']): string[] {
  const key = loop.toLowerCase();
  return Object.entries(cases).flatMap(([of, names]) => (of === key || of.startsWith(`${key}/`) ? names : []));
}
