'use client';
import { Command } from 'cmdk';
import Fuse from 'fuse.js';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import type { FindableName, FindableNames } from '@/core/project';
import { useFetched } from '../hooks/useFetched';
import { startRuns } from '../progress/useProgress';
import { exchangeTheme } from './theme';

interface PaletteProps {
  readonly slug: string;
  readonly projects: readonly { readonly slug: string; readonly name: string }[];
  readonly requirements: readonly { readonly id: string; readonly text: string }[] | undefined;
  readonly cases: readonly { readonly name: string; readonly runId?: number }[];
  readonly campaigns: readonly string[];
}

/** Ctrl K: every requirement, case, run, component, signal, tool and action by a few letters. */
export function Palette(props: PaletteProps) {
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState('');
  const [text, setText] = useState('');
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((before) => !before);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const close = (): void => {
    setOpen(false);
    setText('');
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="chip" aria-label="Find anything (Ctrl K)">
        Ctrl K
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 w-[620px] max-w-[92vw] -translate-x-1/2 border border-rule bg-sheet shadow-lg"
        >
          <Dialog.Title className="sr-only">Find anything</Dialog.Title>
          <Command label="Find anything" className="text-[14px]">
            <Command.Input
              placeholder="A requirement, a case, a signal, something to do …"
              value={text}
              onValueChange={setText}
              className="w-full border-rule border-b bg-transparent px-4 py-3 text-[16px] outline-none"
            />
            {problem && <p className="px-4 py-2 text-fail">{problem}</p>}
            <Command.List className="max-h-[55vh] overflow-y-auto p-2 [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-soft [&_[cmdk-item]]:flex [&_[cmdk-item]]:gap-3 [&_[cmdk-item]]:px-2 [&_[cmdk-item]]:py-1.5 [&_[cmdk-item][data-selected=true]]:bg-tint">
              <Command.Empty className="p-3 text-soft">Nothing matches.</Command.Empty>
              <Doings slug={props.slug} cases={props.cases} close={close} tell={setProblem} />
              <Places {...props} close={close} />
              <OfModel slug={props.slug} text={text} close={close} />
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface DoingsProps extends Pick<PaletteProps, 'slug' | 'cases'> {
  readonly close: () => void;
  /** Says what went wrong; an empty text that nothing did. */
  readonly tell: (problem: string) => void;
}

function Doings({ slug, cases, close, tell }: DoingsProps) {
  const run = (names?: readonly string[]) => async () => {
    const problem = await startRuns(slug, names);
    tell(problem ?? '');
    if (!problem) close();
  };
  return (
    <Command.Group heading="Do">
      <Command.Item onSelect={run()}>Run all cases</Command.Item>
      {cases.map((one) => (
        <Command.Item key={one.name} onSelect={run([one.name])}>
          Run “{one.name}”
        </Command.Item>
      ))}
      <Command.Item
        onSelect={() => {
          exchangeTheme();
          close();
        }}
      >
        Dark mode on or off
      </Command.Item>
    </Command.Group>
  );
}

/** All there is to go to, with what it is for. */
const places = [
  { words: 'Evidence: the ledger', at: '' },
  { words: 'Requirements', at: '/requirements' },
  { words: 'Desk: run the loop by hand', at: '/desk' },
  { words: 'Model', at: '/model' },
  { words: 'Cases', at: '/cases' },
  { words: 'Campaigns', at: '/campaigns' },
  { words: 'Bench: wiring, builds, live values', at: '/bench' },
  { words: 'Coverage: what the cases reach', at: '/coverage' },
  { words: 'Compare runs and recordings', at: '/cases/compare' },
  { words: 'Derive cases from a requirement', at: '/cases/derive' },
  { words: 'Fit the plant to a recording', at: '/cases/fit' },
  { words: 'Push an input and see which way everything goes', at: '/cases/probe' },
  { words: 'Linear view: gains, poles, frequency response', at: '/cases/linear' },
  { words: 'Solver trial: try methods, steps and tolerances', at: '/cases/solvers' },
] as const;

function Places({ slug, projects, requirements: sent, cases, campaigns, close }: PaletteProps & { readonly close: () => void }) {
  const router = useRouter();
  const { found: fetched = [] } = useFetched<NonNullable<typeof sent>>(sent ? undefined : `/api/projects/${slug}/requirements?as=list`);
  const requirements = sent ?? fetched;
  const go = (href: string) => () => {
    close();
    router.push(href);
  };
  return (
    <>
      <Command.Group heading="Go to">
        {places.map(({ words, at }) => (
          <Command.Item key={at} onSelect={go(`/p/${slug}${at}`)}>
            {words}
          </Command.Item>
        ))}
        {projects
          .filter((one) => one.slug !== slug)
          .map((one) => (
            <Command.Item key={one.slug} onSelect={go(`/p/${one.slug}`)}>
              Project {one.name}
            </Command.Item>
          ))}
      </Command.Group>
      <Command.Group heading="Requirements">
        {requirements.map((one) => (
          <Command.Item key={one.id} value={`${one.id} ${one.text}`} onSelect={go(`/p/${slug}?at=${encodeURIComponent(one.id)}`)}>
            <span className="figure w-16 shrink-0 text-soft">{one.id}</span>
            <span className="truncate">{one.text}</span>
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading="Campaigns">
        {campaigns.map((name) => (
          <Command.Item key={name} value={`campaign ${name}`} onSelect={go(`/p/${slug}/campaigns?campaign=${encodeURIComponent(name)}`)}>
            {name}
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading="Newest run of">
        {cases.map((one) =>
          one.runId === undefined ? null : (
            <Command.Item key={one.name} value={`run ${one.name}`} onSelect={go(`/p/${slug}/runs/${one.runId}`)}>
              {one.name}
            </Command.Item>
          ),
        )}
      </Command.Group>
    </>
  );
}

/** Fewer letters say too little about a signal; more signals than this are not listed. */
const [fewestLetters, mostSignals] = [2, 40];

/** Loops, components, desks and, once some letters are typed, signals. */
function OfModel({ slug, text, close }: { readonly slug: string; readonly text: string; readonly close: () => void }) {
  const router = useRouter();
  const { found } = useFetched<FindableNames>(`/api/projects/${slug}/names`);
  const fuse = useMemo(
    () => new Fuse(found?.signals ?? [], { keys: [{ name: 'name', weight: 2 }, 'about', 'unit'], threshold: 0.35, ignoreLocation: true }),
    [found],
  );
  if (!found) return null;
  const go = (href: string) => () => {
    close();
    router.push(href);
  };
  const inModel = ({ at }: FindableName): string => `/p/${slug}/model?at=${encodeURIComponent(at)}`;
  const signals = text.trim().length < fewestLetters ? [] : fuse.search(text.trim(), { limit: mostSignals }).map(({ item }) => item);
  return (
    <>
      <Command.Group heading="Model">
        {[...found.loops, ...found.components].map((one) => (
          <Named key={one.at} one={one} kind={one.at.split(':')[0] ?? ''} choose={go(inModel(one))} />
        ))}
      </Command.Group>
      <Command.Group heading="By hand">
        {found.desks.map((name) => (
          <Command.Item key={name} value={`desk ${name}`} onSelect={go(`/p/${slug}/desk?desk=${encodeURIComponent(name)}`)}>
            Desk: {name}
          </Command.Item>
        ))}
        {found.components.map(({ name }) => (
          <Command.Item key={name} value={`${name} alone`} onSelect={go(`/p/${slug}/desk?component=${encodeURIComponent(name)}`)}>
            {name} alone
          </Command.Item>
        ))}
      </Command.Group>
      {signals.length > 0 && (
        // What was found by letters of its name, unit or explanation is listed as it is.
        <Command.Group heading="Signals" forceMount>
          {signals.map((one) => (
            <Named key={one.name} one={one} kind={one.unit} choose={go(inModel(one))} forceMount />
          ))}
        </Command.Group>
      )}
    </>
  );
}

interface NamedProps {
  readonly one: FindableName;
  readonly kind: string;
  readonly choose: () => void;
  readonly forceMount?: boolean;
}

function Named({ one: { name, about, at }, kind, choose, forceMount = false }: NamedProps) {
  return (
    <Command.Item value={`${at} ${name} ${about}`} onSelect={choose} forceMount={forceMount}>
      <span className="shrink-0">{name}</span>
      <span className="shrink-0 text-soft">{kind}</span>
      <span className="truncate text-soft">{about}</span>
    </Command.Item>
  );
}
