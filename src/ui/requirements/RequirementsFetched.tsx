'use client';
import { useFetched } from '../hooks/useFetched';
import type { Revision } from '../hooks/useRevision';
import { RequirementsView, type RequirementsViewProps } from './RequirementsView';

/** The requirements of a large project, whose documents are fetched once the page is there. */
export function RequirementsFetched(given: Pick<RequirementsViewProps, 'slug' | 'revision' | 'head'>) {
  const { found, problem } = useFetched<Revision>(`/api/projects/${given.slug}/revisions?number=${given.revision}`);
  if (!found) return <p className="p-8 text-soft">{problem ?? `Fetching ${given.head.total} requirements …`}</p>;
  // A draft rests on the revision its documents are of.
  return <RequirementsView {...given} revision={found.revision} files={found.files} first={undefined} />;
}
