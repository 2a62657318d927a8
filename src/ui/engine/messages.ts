import type { Gathered, ModelView, Renamed, RunOrder, RunResult, SourceFile, Trace, WhyNot } from '@/core';

/** What the page asks of the engine, and what it answers. */
export type EngineRequest =
  | { readonly id: number; readonly k: 'run'; readonly order: RunOrder }
  | { readonly id: number; readonly k: 'why'; readonly order: RunOrder; readonly transition: number }
  | { readonly id: number; readonly k: 'inspect'; readonly files: readonly SourceFile[]; readonly at: string }
  | {
      readonly id: number;
      readonly k: 'rename';
      readonly files: readonly SourceFile[];
      readonly file: string;
      readonly offset: number;
      readonly to: string;
    }
  | {
      readonly id: number;
      readonly k: 'gather';
      readonly files: readonly SourceFile[];
      readonly component: string;
      readonly parts: readonly string[];
      readonly name: string;
    }
  | { readonly id: number; readonly k: 'wire'; readonly files: readonly SourceFile[]; readonly loop: string }
  | { readonly id: number; readonly k: 'replace'; readonly text: string; readonly path: readonly string[]; readonly value: number | boolean };

export interface EngineResults {
  readonly run: { readonly result: RunResult; readonly trace: Trace };
  readonly why: WhyNot;
  readonly inspect: ModelView;
  readonly rename: Renamed;
  readonly gather: Gathered;
  readonly replace: string | undefined;
  readonly wire: { readonly path: string; readonly text: string; readonly count: number } | undefined;
}

export type EngineAnswer =
  | { readonly id: number; readonly value: EngineResults[keyof EngineResults] }
  | { readonly id: number; readonly problem: string };
