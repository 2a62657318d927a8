import { useEffect, useRef } from 'react';
import type { DeskLink } from './DeskLink';

/** Nobody reads a figure faster than this (ms). */
const readingMs = 80;

/**
 * Draws an element anew when its signal has another value, past React: sixty displays move thirty times a second.
 * @param asWords what is drawn is read, not looked at: it may come more seldom while the run goes on
 */
export function useLive<E extends Element>(
  link: DeskLink,
  slot: number,
  draw: (element: E, value: number) => void,
  asWords = false,
): React.RefObject<E | null> {
  const element = useRef<E>(null);
  const latest = useRef(draw);
  latest.current = draw;
  useEffect(() => {
    let [drawn, at] = [Number.NaN, 0];
    const now = (): void => {
      const value = link.value(slot);
      if (!element.current || Object.is(value, drawn)) return;
      const moment = performance.now();
      if (asWords && link.frame?.running && moment - at < readingMs) return;
      [drawn, at] = [value, moment];
      latest.current(element.current, value);
    };
    now();
    return link.hearFrames(now);
  }, [link, slot, asWords]);
  return element;
}
