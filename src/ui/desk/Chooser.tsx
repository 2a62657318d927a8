'use client';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { DeskChoice, OpenedDesk } from '@/core/project';

interface ChooserProps {
  readonly desk: OpenedDesk;
  readonly choose: (choice: DeskChoice) => void;
}

/** What the desk is for: one that was kept, some requirements on a loop, or one component alone. The rest composes itself. */
export function Chooser({ desk, choose }: ChooserProps) {
  const [open, setOpen] = useState(false);
  const { others } = desk;
  const take = (choice: DeskChoice): void => {
    setOpen(false);
    choose(choice);
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="act">Another desk …</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-[14vw] top-[8vh] max-h-[84vh] overflow-y-auto border border-rule bg-sheet p-6 shadow-lg"
        >
          <Dialog.Title className="headline mb-4">What is the desk for?</Dialog.Title>
          <div className="grid gap-4">
            <Names words="A desk that was kept" names={others.desks} take={(name) => take({ desk: name })} />
            <Requirements desk={desk} take={take} />
            <Names words="A whole loop" names={others.loops} take={(name) => take({ loop: name, requirements: [] })} />
            <Names words="One component alone" names={others.components} take={(name) => take({ component: name })} />
          </div>
          <Dialog.Close className="act mt-5">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface NamesProps {
  readonly words: string;
  readonly names: readonly string[];
  readonly take: (name: string) => void;
}

function Names({ words, names, take }: NamesProps) {
  if (names.length === 0) return null;
  return (
    <section>
      <h2 className="mb-1 font-semibold">{words}</h2>
      <ul className="flex flex-wrap gap-1.5">
        {names.map((name) => (
          <li key={name}>
            <button type="button" className="act font-normal" onClick={() => take(name)}>
              {name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Requirements of the loop to build a desk for, and the case it starts as. */
function Requirements({ desk, take }: { readonly desk: OpenedDesk; readonly take: (choice: DeskChoice) => void }) {
  const [picked, setPicked] = useState<readonly string[]>(desk.requirements);
  const [startFrom, setStartFrom] = useState(desk.startFrom ?? '');
  const loop = desk.variant ? `${desk.loop}/${desk.variant}` : desk.loop;
  const toggle = (id: string): void => setPicked(picked.includes(id) ? picked.filter((one) => one !== id) : [...picked, id]);
  return (
    <section>
      <h2 className="mb-1 font-semibold">Requirements of the loop {loop}</h2>
      <ul className="max-h-64 overflow-y-auto border border-rule">
        {desk.others.requirements.map(({ id, text }) => (
          <li key={id} className="border-rule border-b px-2 py-1 last:border-0">
            <label className="flex gap-2">
              <input type="checkbox" checked={picked.includes(id)} onChange={() => toggle(id)} />
              <span className="figure w-16 shrink-0 pt-0.5 text-soft">{id}</span>
              <span className="font-serif">{text}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex items-center gap-3">
        <label className="flex items-center gap-1.5">
          start as in
          <select
            value={startFrom}
            onChange={(event) => setStartFrom(event.target.value)}
            className="rounded border border-rule bg-sheet px-1.5 py-1"
          >
            <option value="">the loop itself</option>
            {desk.others.cases.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="act act-first"
          disabled={picked.length === 0}
          onClick={() => take({ loop, requirements: picked, ...(startFrom ? { startFrom } : {}) })}
        >
          Build a desk for these
        </button>
      </div>
    </section>
  );
}
