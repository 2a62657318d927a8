import { observeElementOffset, useVirtualizer, type VirtualItem, type Virtualizer } from '@tanstack/react-virtual';

/** So many lines are all on the page, to be searched and printed by the browser, and none moves once it is there; of more only those in sight. */
export const mostWhole = 300;

interface LongListOptions {
  readonly count: number;
  /** What scrolls around the list. */
  readonly pane: () => HTMLElement | null;
  /** Height of a line before it has been measured (px). */
  readonly estimate: (index: number) => number;
  readonly keyOf: (index: number) => string | number;
  /** Height of what is on the page before the pane has been measured (px). */
  readonly firstHeight: number;
  /** Where the list begins in what scrolls (px). */
  readonly margin?: number;
}

interface LongList<L extends Element> {
  readonly virtual: Virtualizer<HTMLElement, L>;
  /** Lines that are on the page. */
  readonly shown: readonly VirtualItem[];
  /** Heights of what is not on the page, before and after (px). */
  readonly before: number;
  readonly after: number;
}

/** A list of which only a part is on the page when it is long. Its lines stand in the flow of the page, between two spaces. */
export function useLongList<L extends Element>(options: LongListOptions): LongList<L> {
  const { count, pane, estimate, keyOf, firstHeight, margin = 0 } = options;
  const virtual = useVirtualizer<HTMLElement, L>({
    count,
    getScrollElement: pane,
    observeElementOffset: keepScrolled,
    estimateSize: estimate,
    getItemKey: keyOf,
    overscan: count <= mostWhole ? count : 12,
    initialRect: { width: firstHeight, height: firstHeight },
    scrollMargin: margin,
  });
  const shown = virtual.getVirtualItems();
  return {
    virtual,
    shown,
    before: (shown[0]?.start ?? margin) - margin,
    after: virtual.getTotalSize() - ((shown.at(-1)?.end ?? margin) - margin),
  };
}

/**
 * Begins where the pane has been scrolled to. One who scrolls a page that came from the server before its scripts are there would be thrown back to its
 * start, and a click begun on a line would end on another.
 */
const keepScrolled: typeof observeElementOffset<HTMLElement> = (list, report) => {
  if (list.scrollElement) report(list.scrollElement.scrollTop, false);
  return observeElementOffset(list, report);
};
