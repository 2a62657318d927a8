'use client';
import { Popover } from 'radix-ui';
import { type DeskSignal, formsOf } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';
import { Breakable } from '../../parts/Breakable';
import { shortSignal } from './valueWords';

interface SignalAboutProps {
  readonly item: DeskItem;
  readonly signal: DeskSignal;
  readonly signals: readonly DeskSignal[];
  readonly change: (item: DeskItem) => void;
  readonly drop: () => void;
}

/** The name of a signal on the desk; one press on it shows all about it, and lets its form be changed. */
export function SignalAbout({ item, signal, signals, change, drop }: SignalAboutProps) {
  return (
    <Popover.Root>
      <Popover.Trigger className="flex w-full items-baseline gap-1.5 text-left text-[12.5px] leading-tight" title={`All about ${signal.name}`}>
        <b className="min-w-0">
          <Breakable name={shortSignal(signal.name)} />
        </b>
        <span className="ml-auto shrink-0 text-[11px] text-soft">{signal.access}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" className="z-10 w-80 border border-rule bg-sheet p-4 shadow-lg">
          <h3 className="font-semibold">{signal.name}</h3>
          {signal.about && <p className="font-serif text-[15px] leading-snug">{signal.about}</p>}
          <Facts signal={signal} />
          <div className="mt-3 grid gap-1.5 border-rule border-t pt-3 text-[13px]">
            <Form item={item} signal={signal} signals={signals} change={change} />
            <button type="button" className="act mt-1 w-fit" onClick={drop}>
              Remove from the desk
            </button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Facts({ signal }: { readonly signal: DeskSignal }) {
  const { type, unit, access, min, max, from, readers } = signal;
  return (
    <dl className="mt-2 grid grid-cols-[84px_1fr] gap-y-0.5 text-[13px]">
      <dt className="text-soft">kind</dt>
      <dd>
        {type} {unit && `in ${unit}`}, {access === 'set' ? 'can be set' : 'only read'}
      </dd>
      <dt className="text-soft">limits</dt>
      <dd>{min === undefined && max === undefined ? 'none declared' : `${min ?? '−∞'} … ${max ?? '∞'} ${unit}`}</dd>
      <dt className="text-soft">made by</dt>
      <dd>{from}</dd>
      <dt className="text-soft">read by</dt>
      <dd>{readers.length > 0 ? readers.join(', ') : 'no other component'}</dd>
    </dl>
  );
}

/** How the signal is shown: its form, what it is drawn over, the ends of its scale. */
function Form({ item, signal, signals, change }: Omit<SignalAboutProps, 'drop'>) {
  return (
    <>
      <label className="flex items-center justify-between gap-2">
        Shown as
        <select
          value={item.as}
          onChange={(event) => change({ ...item, as: event.target.value as DeskItem['as'] })}
          className="rounded border border-rule bg-sheet px-1.5 py-0.5"
        >
          {formsOf(signal).map((form) => (
            <option key={form}>{form}</option>
          ))}
        </select>
      </label>
      {item.as === 'x-y' && (
        <label className="flex items-center justify-between gap-2">
          Across
          <select
            value={item.with ?? ''}
            onChange={(event) => change({ ...item, with: event.target.value })}
            className="max-w-48 rounded border border-rule bg-sheet px-1.5 py-0.5"
          >
            <option value="">choose a signal</option>
            {signals
              .filter((one) => one.type === 'LREAL' && one.role !== 'parameter')
              .map((one) => (
                <option key={one.name}>{one.name}</option>
              ))}
          </select>
        </label>
      )}
      {signal.type !== 'BOOL' && !signal.labels && (
        <>
          <Bound of="min" words="From" item={item} change={change} />
          <Bound of="max" words="To" item={item} change={change} />
          <Bound of="decimals" words="Decimals" item={item} change={change} />
        </>
      )}
    </>
  );
}

interface BoundProps extends Pick<SignalAboutProps, 'item' | 'change'> {
  readonly of: 'min' | 'max' | 'decimals';
  readonly words: string;
}

function Bound({ of, words, item, change }: BoundProps) {
  return (
    <label className="flex items-center justify-between gap-2">
      {words}
      <input
        type="number"
        defaultValue={item[of]}
        onBlur={({ target }) => change({ ...item, [of]: target.value === '' ? undefined : Number(target.value) })}
        className="figure w-24 rounded border border-rule bg-sheet px-1.5 py-0.5 text-right"
      />
    </label>
  );
}
