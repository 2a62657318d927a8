'use client';
import Fuse from 'fuse.js';
import { Popover } from 'radix-ui';
import { useMemo, useState } from 'react';

/** Something that has a name in the loop. */
export interface Named {
  readonly name: string;
  readonly unit: string;
  readonly about: string;
  /** A word on the right: what can be done with it, or what it is. */
  readonly note?: string;
}

interface PickByNameProps<T extends Named> {
  /** Of the button that opens the list. */
  readonly words: string;
  /** Of the field in it. */
  readonly label: string;
  readonly items: readonly T[];
  readonly take: (item: T) => void;
}

const mostShown = 40;

/** A button that offers names by a few letters of the name, the unit or the explanation: nobody types a whole one. */
export function PickByName<T extends Named>({ words, label, items, take }: PickByNameProps<T>) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const fuse = useMemo(
    () => new Fuse(items, { keys: [{ name: 'name', weight: 2 }, 'unit', 'about'], threshold: 0.35, ignoreLocation: true }),
    [items],
  );
  const found = text.trim() === '' ? items.slice(0, mostShown) : fuse.search(text, { limit: mostShown }).map((one) => one.item);
  const choose = (item: T | undefined): void => {
    if (!item) return;
    take(item);
    setOpen(false);
    setText('');
    setAt(0);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="act">{words}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" className="z-10 w-[420px] max-w-[calc(100vw-1rem)] border border-rule bg-sheet p-2 shadow-lg">
          <input
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setAt(0);
            }}
            onKeyDown={(event) => {
              if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
              if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
              if (event.key === 'Enter') choose(found[at]);
            }}
            placeholder="Name, unit or what it is"
            aria-label={label}
            className="w-full border-rule border-b bg-transparent px-1 py-1 outline-none"
          />
          <ul className="mt-1 max-h-72 overflow-y-auto">
            {found.map((item, index) => (
              <li key={item.name}>
                <button
                  type="button"
                  onClick={() => choose(item)}
                  className={`w-full px-1 py-1 text-left ${index === at ? 'bg-tint' : ''} hover:bg-tint`}
                >
                  <span className="figure">{item.name}</span> <span className="figure text-soft">{item.unit}</span>
                  <span className="float-right text-[11px] text-soft">{item.note}</span>
                  {item.about && <span className="block truncate text-[12.5px] text-soft">{item.about}</span>}
                </button>
              </li>
            ))}
            {found.length === 0 && <li className="px-1 py-1 text-soft">Nothing matches.</li>}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
