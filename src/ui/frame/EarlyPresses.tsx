'use client';
import { useEffect } from 'react';

declare global {
  interface Window {
    doKeptPresses?: () => void;
  }
}

/** Does what was pressed before the page was there; stands where the whole page is above it. */
export function EarlyPresses() {
  useEffect(() => {
    // Effects of what stands around it come later in the same round.
    const soon = setTimeout(() => window.doKeptPresses?.());
    return () => clearTimeout(soon);
  }, []);
  return null;
}
