'use client';
import { createContext, type ReactNode, useContext, useLayoutEffect, useRef, useState } from 'react';
import type { Extent } from './wholeScale';

/** The room for a drawing that is to be seen as a whole; none where one scrolls. */
const RoomOfDrawing = createContext<Extent | undefined>(undefined);

export function useRoom(): Extent | undefined {
  return useContext(RoomOfDrawing);
}

/** Around a drawing. To be seen as a whole it takes what height is left, and tells the drawing how much that is. */
export function Room({ whole, children }: { readonly whole: boolean; readonly children: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<Extent>();
  useLayoutEffect(() => {
    const look = (): void => {
      const { clientWidth: width = 0, clientHeight: height = 0 } = frame.current ?? {};
      setRoom((before) => (before?.width === width && before.height === height ? before : { width, height }));
    };
    look();
    const sizes = new ResizeObserver(look);
    if (frame.current) sizes.observe(frame.current);
    return () => sizes.disconnect();
  }, []);
  return (
    <div ref={frame} className={whole ? 'min-h-0 flex-1 overflow-auto' : ''}>
      <RoomOfDrawing.Provider value={whole ? room : undefined}>{children}</RoomOfDrawing.Provider>
    </div>
  );
}
