import { useRouter } from 'next/navigation';
import type { SourceFile } from '@/core/documents';
import type { useDrafts } from '../../drafts/useDrafts';
import { caseFiles } from './caseFiles';

/** Takes cases over that were found, as drafts, and opens the first of them in the editor. */
export function useTaken(slug: string, drafts: ReturnType<typeof useDrafts>): (cases: readonly SourceFile[]) => void {
  const router = useRouter();
  return (cases) => {
    drafts.editAll(cases);
    const [first] = caseFiles(cases);
    if (first) router.push(`/p/${slug}/cases/edit?case=${encodeURIComponent(first.name)}`);
  };
}
