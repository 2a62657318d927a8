import type { Touched } from '@/core/coverage';
import type { RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';

/** What a process that runs code tells: that a run is begun, that the code has done its part of it, what came of it, or why nothing did. */
export type CodeAnswer =
  | { readonly k: 'begun' }
  | { readonly k: 'run over' }
  | {
      readonly k: 'ran';
      readonly ran: { readonly result: RunResult; readonly elapsedMs: number; readonly trace?: SentTrace; readonly touched?: Touched };
    }
  | { readonly k: 'ended'; readonly why: string };
