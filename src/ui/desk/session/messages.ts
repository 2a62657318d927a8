import type { CaseHeading, Standing, Take, TakenCase } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { DeskChoice, OpenedDesk } from '@/core/project';
import type { DeskItem, DeskStep } from '@/core/shapes';
import type { HandAction } from '@/core/simulate';
import type { Trace } from '@/core/trace';

/** What the page tells the desk's worker. */
export type DeskAsk =
  | { readonly k: 'open'; readonly files: readonly SourceFile[]; readonly choice: DeskChoice }
  /** What is on the screen: slots whose values it wants, and those that are lanes, with the seconds they reach back. */
  | { readonly k: 'show'; readonly slots: readonly number[]; readonly lanes: readonly number[]; readonly seconds: number }
  | { readonly k: 'play' | 'pause' | 'hit' | 'back' | 'take' }
  /** What came last is on the screen: the next may come. */
  | { readonly k: 'ready for'; readonly told: 'frame' | 'lanes' }
  | { readonly k: 'speed'; readonly times: number }
  | { readonly k: 'act'; readonly action: HandAction; readonly asEvent?: boolean }
  | { readonly k: 'press'; readonly steps: readonly DeskStep[] }
  | { readonly k: 'start'; readonly items: readonly DeskItem[] }
  | { readonly k: 'go to'; readonly ns: number }
  | { readonly k: 'pause when'; readonly text: string }
  /** Looks out for a condition; its instants are told as they come. */
  | { readonly k: 'catch'; readonly text: string }
  /** Lanes about an instant (s) that lies a quarter into them, in place of the last seconds. */
  | { readonly k: 'look at'; readonly at: number | undefined }
  | { readonly k: 'make case'; readonly heading: Pick<CaseHeading, 'name' | 'about'>; readonly by: 'state' | 'time' };

/** Values at one instant, in the order in which they were asked for. */
export interface Frame {
  readonly nowNs: number;
  readonly running: boolean;
  /** From this instant on (s) every row is kept; before it there are least and greatest values. */
  readonly exactFrom: number;
  readonly values: Float64Array;
  /** Parameters that stand at another value than designed, by their slot. */
  readonly tuned: readonly (readonly [number, number])[];
}

/** What the desk's worker tells the page. */
export type DeskTold =
  | { readonly k: 'opened'; readonly desk: OpenedDesk }
  | { readonly k: 'problem'; readonly message: string }
  | { readonly k: 'frame'; readonly frame: Frame }
  | { readonly k: 'lanes'; readonly trace: Trace; readonly standings: readonly Standing[] | undefined }
  /** The run stands still by itself. */
  | { readonly k: 'stopped'; readonly why: string }
  | { readonly k: 'condition'; readonly problem: string }
  | { readonly k: 'caught'; readonly at: readonly number[]; readonly problem: string }
  | { readonly k: 'take'; readonly take: Take; readonly svg: string }
  | { readonly k: 'case'; readonly taken: TakenCase };
