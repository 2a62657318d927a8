import type { Attempted } from '@/core/project';
import { asJson } from '../../format/asJson';

/** Tells the server what was tried to be broken in vain. Where that fails the ledger knows less than there is to know, and nothing wrong. */
export async function keepAttempts(slug: string, attempts: readonly Attempted[]): Promise<void> {
  await fetch(`/api/projects/${slug}/attempts`, asJson({ attempts })).catch(() => undefined);
}
