'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { Reading } from '@/core/reading';
import type { RequirementView } from '@/core/requirements';
import { plural } from '@/core/wording';
import { keepScrolled } from '../hooks/keepScrolled';
import { MarkedText } from './MarkedText';
import { useReadings } from './useReadings';

interface RequirementListProps {
  readonly requirements: readonly RequirementView[];
  readonly selected: string | undefined;
  readonly select: (id: string) => void;
  readonly version: number;
}

/** The prose as a document. Only what is in sight is on the page, and only that is read. */
export function RequirementList({ requirements, selected, select, version }: RequirementListProps) {
  const place = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: requirements.length,
    getScrollElement: (): HTMLElement | null => place.current,
    observeElementOffset: keepScrolled,
    estimateSize: () => 92,
    overscan: 6,
    // Before anything is measured, so that the page comes with the first requirements in it.
    initialRect: { width: 640, height: 700 },
    getItemKey: (index) => requirements[index]?.id ?? index,
  });
  const items = rows.getVirtualItems();
  const readings = useReadings(
    items.flatMap(({ index }) => requirements[index]?.text ?? []),
    version,
  );
  const at = requirements.findIndex((one) => one.id === selected);
  const isOpening = useRef(true);
  // Walking by keyboard keeps the selection in sight, and a link opens there; one who has scrolled before that is left where they are.
  useEffect(() => {
    if (at >= 0 && !(isOpening.current && (place.current?.scrollTop ?? 0) > 0)) rows.scrollToIndex(at, { align: 'auto' });
    isOpening.current = false;
  }, [at, rows]);
  return (
    <div ref={place} className="min-h-0 flex-1 overflow-y-auto px-7 pb-12">
      <ul className="relative" style={{ height: rows.getTotalSize() }}>
        {items.map((item) => {
          const requirement = requirements[item.index];
          if (!requirement) return null;
          const { id, section, text } = requirement;
          return (
            <li
              key={item.key}
              ref={rows.measureElement}
              data-index={item.index}
              className="absolute top-0 left-0 w-full"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              {section !== requirements[item.index - 1]?.section && <h2 className="pt-5 pb-1 font-semibold text-soft">{section}</h2>}
              <Item requirement={requirement} reading={readings.get(text)} isSelected={id === selected} select={() => select(id)} />
            </li>
          );
        })}
      </ul>
    </div>
  );
}

interface ItemProps {
  readonly requirement: RequirementView;
  readonly reading: Reading | undefined;
  readonly isSelected: boolean;
  readonly select: () => void;
}

function Item({ requirement, reading, isSelected, select }: ItemProps) {
  return (
    <button
      type="button"
      aria-pressed={isSelected}
      onClick={select}
      className={`grid w-full grid-cols-[76px_1fr] border-rule border-b py-3 pr-3 pl-3 text-left ${isSelected ? 'bg-sheet shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
    >
      <span className="figure pt-1 text-soft">{requirement.id}</span>
      <span>
        <span className="block font-serif text-[17px] leading-[1.6]">
          <MarkedText
            text={requirement.text}
            proposals={reading?.proposals ?? []}
            notRead={reading?.notRead ?? []}
            remarks={reading?.quality ?? []}
          />
        </span>
        <span className="mt-0.5 block text-[13px] text-soft">{stateLine(requirement, reading?.proposals.length ?? 0)}</span>
      </span>
    </button>
  );
}

function stateLine({ state, criteria, verifyBy, rejected }: RequirementView, proposals: number): string {
  switch (state) {
    case 'read':
      return `read · ${plural(criteria.length, 'criterion', 'criteria')} accepted`;
    case 'to confirm':
      return 'read · to confirm';
    case 'not tested':
      return `verified by ${verifyBy}`;
    case 'not read yet':
      if (rejected.length > 0) return `not read yet · ${plural(rejected.length, 'reading')} rejected`;
      return proposals > 0 ? 'not read yet · a reading is proposed' : 'not read yet';
  }
}
