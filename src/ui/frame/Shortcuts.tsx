'use client';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';

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
  ['?', 'this page'],
] as const;

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
          className="fixed top-24 left-1/2 w-[480px] -translate-x-1/2 border border-rule bg-sheet p-6 shadow-lg"
        >
          <Dialog.Title className="headline mb-4">By keyboard and pointer</Dialog.Title>
          <dl className="grid grid-cols-[110px_1fr] gap-y-1.5">
            {keys.map(([key, meaning]) => (
              <div key={key} className="contents">
                <dt className="figure">{key}</dt>
                <dd>{meaning}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="act mt-5">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
