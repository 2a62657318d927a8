'use client';
import { type ReactNode, useRef } from 'react';
import { savePicture } from '../../parts/savePicture';
import { saveText } from '../../parts/saveText';

interface FigureProps {
  readonly title: string;
  /** What there is to choose. */
  readonly choices?: ReactNode;
  /** Its data as lines of CSV. */
  readonly csv: () => string;
  readonly children: ReactNode;
  readonly wide?: boolean;
}

/** A picture with its title, which can be saved as it stands, and so can its data. */
export function Figure({ title, choices, csv, children, wide = false }: FigureProps) {
  const box = useRef<HTMLDivElement>(null);
  const name = title.toLowerCase().replace(/[^a-z0-9]+/g, '-');
  return (
    <section className={`min-w-0 ${wide ? 'col-span-2' : ''}`} aria-label={title}>
      <div className="mb-1.5 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="font-bold">{title}</h2>
        {choices}
        <span className="ml-auto flex gap-3 text-[12.5px] text-soft">
          <button
            type="button"
            className="underline"
            aria-label={`Save ${title} as PNG`}
            onClick={() => box.current && void savePicture(`${name}.png`, box.current)}
          >
            PNG
          </button>
          <button type="button" className="underline" aria-label={`Save ${title} as CSV`} onClick={() => saveText(`${name}.csv`, csv(), 'text/csv')}>
            CSV
          </button>
        </span>
      </div>
      <div ref={box}>{children}</div>
    </section>
  );
}
