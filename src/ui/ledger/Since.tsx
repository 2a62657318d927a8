import Link from 'next/link';
import type { ChangedSince } from '@/core/evidence';
import { documentAddress } from '../format/documentAddress';

/** So many documents are named; a change of everything is told by their number. */
const mostNamed = 6;

/** What made the results of a requirement out of date, with the way to each document. */
export function Since({ slug, since }: { readonly slug: string; readonly since: ChangedSince }) {
  const { documents, reading, product } = since;
  return (
    <>
      {documents.length > 0 && (
        <>
          Out of date since{' '}
          {documents.slice(0, mostNamed).map((path, index) => (
            <span key={path}>
              {index > 0 && (index === documents.length - 1 ? ' and ' : ', ')}
              <Link href={documentAddress(slug, path)} className="underline decoration-rule">
                {path}
              </Link>
            </span>
          ))}
          {documents.length > mostNamed && ` and ${documents.length - mostNamed} more`} changed.{' '}
        </>
      )}
      {reading && 'The criterion or the requirement text has changed since the last run. '}
      {product && 'Nothing it depends on has changed, but this version of Ovrand computes the model differently from the one that made the run.'}
    </>
  );
}
