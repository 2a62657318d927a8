'use client';
import Link from 'next/link';
import type { CampaignLine } from '@/core/campaign';
import { plural } from '@/core/wording';

/** Campaigns that were made of a document, the newest first. */
export function Made({ slug, line }: { readonly slug: string; readonly line: CampaignLine | undefined }) {
  if (!line || line.made.length === 0) return null;
  return (
    <section className="max-h-[38%] overflow-y-auto border-ink border-t px-4 py-3" aria-label="What was run">
      <h2 className="font-bold">What was run</h2>
      <ul>
        {line.made.map((one) => (
          <li key={one.id} className="flex items-baseline gap-2 py-0.5">
            <Link className="underline decoration-rule" href={`/p/${slug}/campaigns/${one.id}`}>
              revision {one.revision}, {one.createdAt.slice(0, 16).replace('T', ' ')}
            </Link>
            <span className="figure ml-auto whitespace-nowrap text-soft">
              {one.done} of {plural(one.total, 'run')}
              {one.failed > 0 && <b className="text-fail"> {one.failed} break</b>}
            </span>
            {!one.isCurrent && <span className="font-serif text-[12px] italic text-lack">out of date</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
