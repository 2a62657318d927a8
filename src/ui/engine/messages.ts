import type { RunOrder, RunResult, Trace } from '@/core';

/** What the page asks of the engine, and what it answers. */
export interface EngineRequest {
  readonly id: number;
  readonly order: RunOrder;
}

export type EngineAnswer =
  | { readonly id: number; readonly result: RunResult; readonly trace: Trace }
  | { readonly id: number; readonly problem: string };
