import { useSyncExternalStore } from 'react';

/** As in the style sheet. */
const query = '(width < 48rem)';

/** Whether the screen is so narrow that panes stand one below the other; from the server it is not. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const media = window.matchMedia(query);
      media.addEventListener('change', changed);
      return () => media.removeEventListener('change', changed);
    },
    () => window.matchMedia(query).matches,
    () => false,
  );
}
