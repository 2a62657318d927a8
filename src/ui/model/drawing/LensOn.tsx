'use client';
import { createContext, useContext } from 'react';
import type { Lens, Seen } from '@/core/picture';

/** Coverage that is laid over a drawing. */
export interface LensOn {
  readonly lens: Lens;
  readonly chosen: Seen | undefined;
  /** Says more of a part, or no more. */
  readonly choose: (seen: Seen | undefined) => void;
}

export const LensContext = createContext<LensOn | undefined>(undefined);

/** What a part of a drawing is to say of how often it was done; nothing where no lens is laid over it. */
export function useSeen(
  kind: 'states' | 'arrows',
  id: string,
): { readonly seen: Seen; readonly isChosen: boolean; readonly choose: () => void } | undefined {
  const on = useContext(LensContext);
  const seen = on?.lens[kind].get(id);
  if (!on || !seen) return undefined;
  const isChosen = on.chosen?.parts[0]?.id === seen.parts[0]?.id;
  return { seen, isChosen, choose: () => on.choose(isChosen ? undefined : seen) };
}

/** How often, beside a part of a drawing; a button that says more of it. */
export function SeenMark({
  of,
  x,
  y,
  anchor = 'start',
}: {
  readonly of: NonNullable<ReturnType<typeof useSeen>>;
  readonly x: number;
  readonly y: number;
  readonly anchor?: 'start' | 'end';
}) {
  const { seen, isChosen, choose } = of;
  const text = seen.count > 0 ? `×${seen.count}` : 'never';
  return (
    // biome-ignore lint/a11y/useSemanticElements: a button of HTML cannot stand in a drawing
    <g
      role="button"
      tabIndex={0}
      aria-pressed={isChosen}
      aria-label={`${seen.words}: ${text}`}
      className="cursor-pointer"
      onClick={choose}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        choose();
      }}
    >
      <title>{seen.gap ?? seen.words}</title>
      <text
        x={x}
        y={y}
        textAnchor={anchor}
        stroke="var(--ground)"
        strokeWidth={3}
        paintOrder="stroke"
        className={`font-mono text-[10.5px] ${seen.count > 0 ? 'fill-soft' : 'fill-lack font-bold'} ${isChosen ? 'underline' : ''}`}
      >
        {text}
      </text>
    </g>
  );
}
