import { observeElementOffset } from '@tanstack/react-virtual';

/**
 * For a list of which only a part is on the page: begins where the pane has been scrolled to. One who scrolls a page that came from the server before its
 * scripts are there would be thrown back to its start, and a click begun on a line would end on another.
 */
export const keepScrolled: typeof observeElementOffset<HTMLElement> = (list, report) => {
  if (list.scrollElement) report(list.scrollElement.scrollTop, false);
  return observeElementOffset(list, report);
};
