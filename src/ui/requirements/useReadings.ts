'use client';
import { useEffect, useState } from 'react';
import type { Reading } from '@/core/reading';
import { askEngine } from '../engine/engine';

/** What the reader makes of each of some texts. Only what is on the screen is read; a text is read again when the project's names have changed. Version 0 has no reader yet. */
export function useReadings(texts: readonly string[], version: number): ReadonlyMap<string, Reading> {
  const [known, setKnown] = useState<{ readonly version: number; readonly readings: ReadonlyMap<string, Reading> }>({
    version,
    readings: new Map(),
  });
  const missing = version === 0 ? [] : texts.filter((text) => known.version !== version || !known.readings.has(text));
  // Texts may have lines of their own.
  const key = missing.length === 0 ? '' : JSON.stringify(missing);
  useEffect(() => {
    if (key === '') return;
    let wanted = true;
    const asked = JSON.parse(key) as string[];
    void askEngine('readings', { texts: asked }).then((readings) => {
      if (!wanted) return;
      setKnown((before) => {
        const all = new Map(before.version === version ? before.readings : []);
        asked.forEach((text, index) => {
          const reading = readings[index];
          if (reading) all.set(text, reading);
        });
        return { version, readings: all };
      });
    });
    return () => {
      wanted = false;
    };
  }, [key, version]);
  return known.readings;
}
