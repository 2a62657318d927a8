/** A case as the page receives it. */
export interface CaseData {
  readonly name: string;
  readonly about: string;
  readonly stopSeconds: number;
  readonly courses: readonly {
    readonly name: string;
    readonly type: string;
    readonly unit: string;
    readonly points: readonly (readonly [number, number])[];
  }[];
  readonly script: readonly { readonly kind: 'set' | 'wait' | 'hold'; readonly text: string; readonly seconds?: number }[];
  readonly changes: readonly string[];
  readonly meantFor: readonly string[];
  readonly run?: {
    readonly id: number;
    readonly verdict: string;
    readonly isCurrent: boolean;
    readonly elapsedMs: number;
    readonly discounted?: string;
  };
}
