'use client';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import type { Column } from '@/core/trace';
import { shortName } from '../lane/Lane';
import { signalData } from './LaneSheet';
import { type LaneWork, whyNotShared } from './useGrouping';

/** A signal of a lane, as it stands beside it. */
export interface NamedSignal {
  readonly column: Column;
  readonly value: ReactNode;
  /** How it is drawn, where it is not alone in its lane. */
  readonly tone?: string;
  readonly dash?: string | undefined;
  /** It cannot be dropped. */
  readonly isFixed?: boolean;
}

interface LaneNamesProps {
  readonly signals: readonly NamedSignal[];
  /** The first signal of each lane of the sheet. */
  readonly heads: readonly Column[];
  readonly work: LaneWork;
}

/** The names of a lane with their values. A name may be dragged on another lane; its menu does the same by keyboard. */
export function LaneNames({ signals, heads, work }: LaneNamesProps) {
  return signals.map(({ column, value, tone, dash, isFixed = false }) => (
    // biome-ignore lint/a11y/noStaticElementInteractions: what dragging does, the menu of the signal does as well
    <div
      key={column.name}
      className="group min-w-0 flex-1"
      draggable
      onDragStart={(event) => {
        event.dataTransfer.setData(signalData, column.name);
        event.dataTransfer.effectAllowed = 'move';
      }}
    >
      <div className="flex items-baseline gap-1 truncate text-[12.5px]" title={column.name}>
        {signals.length > 1 && (
          <svg aria-hidden="true" className="shrink-0 self-center" width="14" height="4">
            <line x1="0" x2="14" y1="2" y2="2" stroke={tone ?? 'var(--ink)'} strokeWidth="2" strokeDasharray={dash} />
          </svg>
        )}
        <b className="truncate">{shortName(column)}</b>
        <span className="text-soft">{column.labels?.[0] === '' ? 'state' : column.unit}</span>
        <SignalMenu
          column={column}
          isFixed={isFixed}
          isShared={signals.length > 1}
          heads={heads.filter((head) => signals.every((one) => one.column !== head))}
          work={work}
        />
      </div>
      <div className={`figure ${signals.length > 1 || column.labels || column.type === 'BOOL' ? 'leading-tight' : 'text-[15px]'}`}>{value}</div>
    </div>
  ));
}

interface SignalMenuProps {
  readonly column: Column;
  readonly isFixed: boolean;
  readonly isShared: boolean;
  readonly heads: readonly Column[];
  readonly work: LaneWork;
}

function SignalMenu({ column, isFixed, isShared, heads, work }: SignalMenuProps) {
  const { name } = column;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`Lane of ${name}`}
        className="ml-auto px-1 text-soft opacity-0 focus:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100 [@media(hover:none)]:opacity-100"
      >
        ⋯
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className="z-10 max-h-72 overflow-y-auto border border-rule bg-sheet p-1 text-[13px] shadow-lg">
          {!isFixed && <Item words="Drop" choose={() => work.drop(name)} />}
          {isShared && <Item words="Give it a lane of its own" choose={() => work.part(name)} />}
          {heads
            .filter((head) => whyNotShared(column, head) === undefined)
            .map((head) => (
              <Item key={head.name} words={`Put it in the lane of ${head.name}`} choose={() => work.join(name, head.name)} />
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item({ words, choose }: { readonly words: string; readonly choose: () => void }) {
  return (
    <DropdownMenu.Item onSelect={choose} className="cursor-pointer px-2 py-1 outline-none data-[highlighted]:bg-tint">
      {words}
    </DropdownMenu.Item>
  );
}
