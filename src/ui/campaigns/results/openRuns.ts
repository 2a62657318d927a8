import type { SourceFile } from '@/core/documents';
import { decode } from '@/core/exchange';
import { askEngine } from '../../engine/engine';

let opened: { readonly id: number; readonly ready: Promise<number> } | undefined;

/** Makes a campaign ready in the engine, from the documents it was started on, so that any of its runs can be made again. @returns how many it has */
export function openRuns(id: number, campaign: string): Promise<number> {
  if (opened?.id === id) return opened.ready;
  const ready = fetch(`/api/campaigns/${id}/files`)
    .then(async (response) => {
      const body = decode(await response.text()) as SourceFile[] | { error: string };
      if (!Array.isArray(body)) throw new Error((body as { error: string }).error);
      return (await askEngine('campaign', { files: body, campaign })).total;
    })
    .catch((problem: unknown) => {
      opened = undefined;
      throw problem;
    });
  opened = { id, ready };
  return ready;
}
