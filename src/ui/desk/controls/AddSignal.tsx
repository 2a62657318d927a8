'use client';
import Fuse from 'fuse.js';
import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';
import { type DeskSignal, formsOf } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';

/** Adds a signal by a few letters of its name, unit or explanation. */
export function AddSignal({
  signals,
  items,
  add,
}: {
  readonly signals: readonly DeskSignal[];
  readonly items: readonly DeskItem[];
  readonly add: (item: DeskItem) => void;
}) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const free = useMemo(() => signals.filter((one) => one.role !== 'parameter' && !items.some((item) => item.signal === one.name)), [signals, items]);
  const fuse = useMemo(() => new Fuse(free, { keys: [{ name: 'name', weight: 2 }, 'unit', 'about'], threshold: 0.35, ignoreLocation: true }), [free]);
  const found = text.trim() === '' ? free.slice(0, 40) : fuse.search(text, { limit: 40 }).map((one) => one.item);
  const take = (signal: DeskSignal | undefined): void => {
    if (!signal) return;
    const isCurve = signal.type === 'LREAL' || signal.role === 'region';
    add({ signal: signal.name, as: signal.access === 'read' && isCurve ? 'lane' : (formsOf(signal)[0] ?? 'figure') });
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="act">Add a signal</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" className="z-10 w-[420px] border border-rule bg-sheet p-2 shadow-lg">
          <input
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setAt(0);
            }}
            onKeyDown={(event) => {
              if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
              if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
              if (event.key === 'Enter') take(found[at]);
            }}
            placeholder="Name, unit or what it is"
            aria-label="Find a signal"
            className="w-full border-rule border-b bg-transparent px-1 py-1 outline-none"
          />
          <ul className="mt-1 max-h-72 overflow-y-auto">
            {found.map((signal, index) => (
              <li key={signal.name}>
                <button
                  type="button"
                  onClick={() => take(signal)}
                  className={`w-full px-1 py-1 text-left ${index === at ? 'bg-tint' : ''} hover:bg-tint`}
                >
                  <span className="figure">{signal.name}</span> <span className="figure text-soft">{signal.unit}</span>
                  <span className="float-right text-[11px] text-soft">{signal.access}</span>
                  {signal.about && <span className="block truncate text-[12.5px] text-soft">{signal.about}</span>}
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
