'use client';
import { useState } from 'react';
import type { Place } from '@/core/fault';
import type { ModelView } from '@/core/picture';
import { useAddress } from '../hooks/useAddress';

/** A line of a text that is to be brought in sight. */
export type Sought = Pick<Place, 'file' | 'line'>;

/** What is opened, and at which line of its text: both stand in the address, so that a fault or a clause of a guard can be linked. */
export function useOpened(first: ModelView) {
  const [at = '', setAt] = useAddress('at');
  const [line, setLine] = useAddress('line');
  const [sought, setSought] = useState<Sought | undefined>(() => {
    const file = first.outline.find((one) => one.id === first.at)?.file;
    return file && Number(line) >= 1 ? { file, line: Math.floor(Number(line)) } : undefined;
  });
  const open = (id: string, place?: Sought): void => {
    setAt(id);
    setLine(place && String(place.line));
    setSought(place && { ...place });
  };
  return { at, open, sought };
}
