import type { SourceFile } from '@/core/documents';
import { decode } from '@/core/exchange';
import { asJson } from '../format/asJson';

/** Saves changed documents as a new revision. @returns its number, or a sentence that says why not */
export async function saveRevision(slug: string, base: number, files: readonly SourceFile[]): Promise<{ revision: number } | string> {
  const response = await fetch(`/api/projects/${slug}/revisions`, asJson({ base, files })).catch(() => undefined);
  if (!response) return 'The server does not answer. Your draft is kept in this browser.';
  const body = decode(await response.text()) as { revision: number } | { error: string };
  return 'error' in body ? body.error : body;
}
