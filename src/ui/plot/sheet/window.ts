import type { Obligation } from '@/core/criteria';

/** A stretch of time on the screen, seconds. */
export interface Window {
  readonly from: number;
  readonly until: number;
}

/** The window that shows an obligation with some time around it; of one that was broken, as far as where it was. */
export function windowAround(obligation: Obligation, whole: Window): Window {
  const end = obligation.outcome === 'broken' ? obligation.at : Math.max(obligation.until, obligation.at);
  const room = Math.max((end - obligation.from) * 0.6, 3);
  return { from: Math.max(whole.from, obligation.from - room), until: Math.min(whole.until, end + room) };
}

/** Zooms by a factor with one instant held in place; never beyond the run, never below a microsecond. */
export function zoomed(view: Window, whole: Window, at: number, factor: number): Window {
  const length = Math.min(whole.until - whole.from, Math.max(1e-6, (view.until - view.from) * factor));
  const share = (at - view.from) / (view.until - view.from);
  const from = Math.max(whole.from, Math.min(whole.until - length, at - share * length));
  return { from, until: from + length };
}
