import type { ReactNode } from 'react';
import type { Composed } from '@/core/campaign';
import type { Composer } from './useComposer';

/** What each part of a composer is given. */
export interface PartProps {
  readonly view: Composed;
  readonly change: Composer['change'];
}

/** One question that a campaign answers, with its word on the left. */
export function Part({ word, children }: { readonly word: string; readonly children: ReactNode }) {
  return (
    <section className="grid grid-cols-[84px_minmax(0,1fr)] gap-3" aria-label={word}>
      <h2 className="pt-1 text-soft">{word}</h2>
      <div>{children}</div>
    </section>
  );
}
