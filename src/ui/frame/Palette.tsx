'use client';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
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

/** Ctrl K: every requirement, case, run and action by a few letters. */
export function Palette(props: PaletteProps) {
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((before) => !before);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const close = (): void => setOpen(false);
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
              placeholder="A requirement, a case, something to do …"
              className="w-full border-rule border-b bg-transparent px-4 py-3 text-[16px] outline-none"
            />
            {problem && <p className="px-4 py-2 text-fail">{problem}</p>}
            <Command.List className="max-h-[55vh] overflow-y-auto p-2 [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-soft [&_[cmdk-item]]:flex [&_[cmdk-item]]:gap-3 [&_[cmdk-item]]:px-2 [&_[cmdk-item]]:py-1.5 [&_[cmdk-item][data-selected=true]]:bg-tint">
              <Command.Empty className="p-3 text-soft">Nothing matches.</Command.Empty>
              <Doings slug={props.slug} cases={props.cases} close={close} tell={setProblem} />
              <Places {...props} close={close} />
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
        <Command.Item onSelect={go(`/p/${slug}`)}>Evidence: the ledger</Command.Item>
        <Command.Item onSelect={go(`/p/${slug}/requirements`)}>Requirements</Command.Item>
        <Command.Item onSelect={go(`/p/${slug}/desk`)}>Desk: run the loop by hand</Command.Item>
        <Command.Item onSelect={go(`/p/${slug}/model`)}>Model</Command.Item>
        <Command.Item onSelect={go(`/p/${slug}/cases`)}>Cases</Command.Item>
        <Command.Item onSelect={go(`/p/${slug}/campaigns`)}>Campaigns</Command.Item>
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
