'use client';
import { useEffect, useRef } from 'react';
import type { Reading } from '@/core/reading';
import type { RequirementView } from '@/core/requirements';
import { plural } from '@/core/wording';
import { useLongList } from '../hooks/useLongList';
import { MarkedText } from './MarkedText';
import { useReadings } from './useReadings';

interface RequirementListProps {
  readonly requirements: readonly RequirementView[];
  readonly selected: string | undefined;
  readonly select: (id: string) => void;
  readonly version: number;
}

/** The prose as a document. Only what is in sight is read. */
export function RequirementList({ requirements, selected, select, version }: RequirementListProps) {
  const place = useRef<HTMLDivElement>(null);
  const { virtual, shown, before, after } = useLongList<HTMLLIElement>({
    count: requirements.length,
    pane: () => place.current,
    estimate: () => 92,
    keyOf: (index) => requirements[index]?.id ?? index,
    firstHeight: 700,
  });
  const { startIndex, endIndex } = virtual.range ?? { startIndex: 0, endIndex: 8 };
  const readings = useReadings(
    requirements.slice(Math.max(0, startIndex - 6), endIndex + 7).map(({ text }) => text),
    version,
  );
  const at = requirements.findIndex((one) => one.id === selected);
  const isOpening = useRef(true);
  // Walking by keyboard keeps the selection in sight, and a link opens there; one who has scrolled before that is left where they are.
  useEffect(() => {
    if (at >= 0 && !(isOpening.current && (place.current?.scrollTop ?? 0) > 0)) virtual.scrollToIndex(at, { align: 'auto' });
    isOpening.current = false;
  }, [at, virtual]);
  return (
    <div ref={place} className="min-h-0 flex-1 overflow-y-auto px-7 pb-12">
      <ul style={{ paddingTop: before, paddingBottom: after }}>
        {shown.map((item) => {
          const requirement = requirements[item.index];
          if (!requirement) return null;
          const { id, section, text } = requirement;
          return (
            <li key={item.key} ref={virtual.measureElement} data-index={item.index}>
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
