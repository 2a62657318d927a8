'use client';
import type { ReactNode } from 'react';
import type { OutlineItem } from '@/core/picture';
import { plural } from '@/core/wording';
import { useWalk } from '../../hooks/useWalk';

/** Loops and components of the project, to be walked with the arrow keys. */
export function Outline({
  items,
  at,
  select,
  children,
}: {
  readonly items: readonly OutlineItem[];
  readonly at: string;
  readonly select: (id: string) => void;
  readonly children: ReactNode;
}) {
  const onKeyDown = useWalk(
    items.map((item) => item.id),
    at,
    select,
  );
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys
    <nav className="h-full overflow-y-auto border-rule border-r py-3" aria-label="Loops and components" tabIndex={0} onKeyDown={onKeyDown}>
      {items.map((item) => (
        <button
          key={item.id}
          type="button"
          id={`row-${item.id}`}
          aria-current={item.id === at ? 'true' : undefined}
          onClick={() => select(item.id)}
          className={`block w-full px-5 py-2 text-left ${item.id === at ? 'bg-tint shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
        >
          <span className="block truncate font-semibold">{item.name}</span>
          <span className="block text-[12.5px] text-soft">{item.line}</span>
          {item.faults > 0 && <span className="block text-[12.5px] text-fail">{plural(item.faults, 'fault')}</span>}
        </button>
      ))}
      {children}
    </nav>
  );
}
