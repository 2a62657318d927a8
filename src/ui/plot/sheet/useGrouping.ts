import { useMemo, useState } from 'react';
import type { Column } from '@/core/trace';
import { isBand } from '../lane/Lane';
import { type Grouping, joined, parted, withoutSignal, withSignal } from './grouping';

/** What people may do with the signals of a sheet. */
export interface LaneWork {
  readonly add: (name: string) => void;
  readonly drop: (name: string) => void;
  /** Moves a signal into the lane of another, if the two can share a scale. */
  readonly join: (name: string, to: string) => void;
  readonly part: (name: string) => void;
}

/**
 * The lanes of a sheet: those it begins with, and what people changed since, which stays when it begins with others.
 * @param columnOf the column of a signal by its name
 * @returns also why a signal was not let into a lane
 */
export function useGrouping(
  base: Grouping,
  columnOf: (name: string) => Column | undefined,
): { readonly lanes: Grouping; readonly work: LaneWork; readonly refused: string } {
  const [changes, setChanges] = useState<readonly ((lanes: Grouping) => Grouping)[]>([]);
  const [refused, setRefused] = useState('');
  const lanes = useMemo(() => changes.reduce((now, change) => change(now), base), [changes, base]);
  const change = (one: (lanes: Grouping) => Grouping): void => {
    setRefused('');
    setChanges((before) => [...before, one]);
  };
  const join = (name: string, to: string): void => {
    const [one, other] = [columnOf(name), columnOf(to)];
    const reason = one && other && name !== to ? whyNotShared(one, other) : undefined;
    if (reason) setRefused(reason);
    else change((now) => joined(now, name, to));
  };
  const work = {
    add: (name: string) => change((now) => withSignal(now, name)),
    drop: (name: string) => change((now) => withoutSignal(now, name)),
    join,
    part: (name: string) => change((now) => parted(now, name)),
  };
  return { lanes, work, refused };
}

/** Why two signals cannot share a lane; nothing if they can. */
export function whyNotShared(one: Column, other: Column): string | undefined {
  if (isBand(one) !== isBand(other)) {
    const [curve, band] = isBand(one) ? [other, one] : [one, other];
    return `${curve.name} is a number and ${band.name} is not, so they cannot share a lane.`;
  }
  if (one.unit === other.unit) return undefined;
  const unit = (column: Column): string => (column.unit === '' ? 'has no unit' : `is in ${column.unit}`);
  return `${one.name} ${unit(one)} and ${other.name} ${unit(other)}, so they cannot share a scale.`;
}
