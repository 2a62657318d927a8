'use client';
import { Dialog, Tabs } from 'radix-ui';
import { useEffect, useState } from 'react';
import { glossary } from '@/core/wording';

const keys = [
  ['Ctrl K', 'find any requirement, case, run or action'],
  ['↑ ↓', 'walk through a list'],
  ['Enter', 'open what is selected'],
  ['N', 'in the requirements: the next one still to be read'],
  ['Enter · E · X', 'in the requirements: accept, change or reject what is proposed; 1 2 3 choose a reading'],
  ['wheel', 'in a plot: zoom time at the pointer'],
  ['drag', 'in a plot: move along time'],
  ['Shift drag', 'in a plot: zoom to a span'],
  ['double click', 'in a plot: the whole run'],
  ['A · B', 'in a plot: set the first or second cursor at the pointer'],
  ['space · .', 'at the desk: run or pause, and one hit'],
  ['Shift click', 'in a network: choose parts to gather them into a component (also the space bar)'],
  ['F2', 'in a text: rename what the cursor stands in, in all documents'],
  ['F12 · Ctrl click', 'in a text: go to where the name is defined'],
  ['?', 'this help'],
] as const;

/** Help: what keys and the pointer do, and what our own words mean. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const { target } = event;
      const isTyping = target instanceof HTMLInputElement || (target instanceof HTMLElement && target.isContentEditable);
      if (event.key === '?' && !isTyping) setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="chip" aria-label="Shortcuts">
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-24 left-1/2 flex max-h-[80vh] w-[620px] -translate-x-1/2 flex-col border border-rule bg-sheet p-6 shadow-lg"
        >
          <Dialog.Title className="headline mb-3">Help</Dialog.Title>
          <Tabs.Root defaultValue="keys" className="flex min-h-0 flex-col">
            <Tabs.List className="mb-3 flex gap-4 border-rule border-b">
              <Tabs.Trigger value="keys" className="tab">
                Keys and pointer
              </Tabs.Trigger>
              <Tabs.Trigger value="words" className="tab">
                Glossary
              </Tabs.Trigger>
            </Tabs.List>
            <Tabs.Content value="keys" className="min-h-0 overflow-y-auto">
              <Explained list={keys} term="figure" />
            </Tabs.Content>
            <Tabs.Content value="words" className="min-h-0 overflow-y-auto">
              <Explained list={glossary} term="font-semibold" />
            </Tabs.Content>
          </Tabs.Root>
          <Dialog.Close className="act mt-5 self-start">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Explained({ list, term }: { readonly list: readonly (readonly [string, string])[]; readonly term: string }) {
  return (
    <dl className="grid grid-cols-[150px_1fr] gap-y-1.5">
      {list.map(([key, meaning]) => (
        <div key={key} className="contents">
          <dt className={term}>{key}</dt>
          <dd>{meaning}</dd>
        </div>
      ))}
    </dl>
  );
}
