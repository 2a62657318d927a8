import type { RunOrder, RunResult } from '@/core/project';

/** What a process that runs code is told, and tells. */
export interface CodeOrder {
  readonly order: RunOrder;
}

export type CodeAnswer =
  | { readonly k: 'begun' }
  | { readonly k: 'ran'; readonly ran: { readonly result: RunResult; readonly elapsedMs: number } }
  | { readonly k: 'ended'; readonly why: string };
