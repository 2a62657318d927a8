'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Column } from '@/core/trace';

/** Adds a lane by a few letters of a signal's name or unit. */
export function SignalPicker({
  columns,
  shown,
  add,
}: {
  readonly columns: readonly Column[];
  readonly shown: readonly Column[];
  readonly add: (slot: number) => void;
}) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const wanted = text.trim().toLowerCase();
  const found = columns.filter((column) => !shown.includes(column) && `${column.name} ${column.unit}`.toLowerCase().includes(wanted)).slice(0, 40);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="act">Add a signal</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" className="z-10 w-72 border border-rule bg-sheet p-2 shadow-lg">
          <input
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              const first = found[0];
              if (event.key === 'Enter' && first) add(first.slot);
            }}
            placeholder="Name or unit"
            aria-label="Find a signal"
            className="w-full border-rule border-b bg-transparent px-1 py-1 outline-none"
          />
          <ul className="mt-1 max-h-64 overflow-y-auto">
            {found.map((column) => (
              <li key={column.slot}>
                <button type="button" onClick={() => add(column.slot)} className="figure w-full px-1 py-1 text-left hover:bg-tint">
                  {column.name} <span className="text-soft">{column.unit}</span>
                </button>
              </li>
            ))}
            {found.length === 0 && <li className="p-1 text-soft">No signal matches.</li>}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
