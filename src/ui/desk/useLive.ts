import { useEffect, useRef } from 'react';
import type { DeskLink } from './DeskLink';

/** Draws an element anew whenever its signal has another value, past React: sixty displays move thirty times a second. */
export function useLive<E extends Element>(link: DeskLink, slot: number, draw: (element: E, value: number) => void): React.RefObject<E | null> {
  const element = useRef<E>(null);
  const latest = useRef(draw);
  latest.current = draw;
  useEffect(() => {
    let drawn = Number.NaN;
    const now = (): void => {
      const value = link.value(slot);
      if (!element.current || Object.is(value, drawn)) return;
      drawn = value;
      latest.current(element.current, value);
    };
    now();
    return link.hearFrames(now);
  }, [link, slot]);
  return element;
}
