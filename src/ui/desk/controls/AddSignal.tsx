'use client';
import { useMemo } from 'react';
import { type DeskSignal, formsOf } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';
import { PickByName } from '../../parts/PickByName';

interface AddSignalProps {
  readonly signals: readonly DeskSignal[];
  readonly items: readonly DeskItem[];
  readonly add: (item: DeskItem) => void;
}

/** Adds a signal by a few letters of its name, unit or explanation. */
export function AddSignal({ signals, items, add }: AddSignalProps) {
  const free = useMemo(
    () =>
      signals
        // Of parameters those that can be changed while the loop runs.
        .filter((one) => (one.role !== 'parameter' || one.access === 'set') && !items.some((item) => item.signal === one.name))
        .map((one) => ({ ...one, note: one.access })),
    [signals, items],
  );
  const take = (signal: DeskSignal): void => {
    const isCurve = signal.type === 'LREAL' || signal.role === 'region';
    add({ signal: signal.name, as: signal.access === 'read' && isCurve ? 'lane' : (formsOf(signal)[0] ?? 'figure') });
  };
  return <PickByName words="Add a signal" label="Find a signal" items={free} take={take} />;
}
