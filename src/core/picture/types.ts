import type { ComponentPicture } from '@/core/documents';
import type { Fault } from '@/core/fault';

/** A slip of paper in a drawing: a component of a loop, an element of a network, a free input. */
export interface Slip {
  readonly id: string;
  readonly title: string;
  /** What stands on it: its equation, or what kind of component it is. */
  readonly text: string;
  readonly about: string;
  readonly inputs: readonly string[];
  readonly outputs: readonly string[];
  /** Item of the outline that opens behind it. */
  readonly opens?: string;
  readonly outside?: 'input' | 'output';
  readonly picture?: ComponentPicture;
}

export interface Link {
  readonly from: { readonly slip: string; readonly pin: string };
  readonly to: { readonly slip: string; readonly pin: string };
}

export interface StatePicture {
  readonly id: string;
  readonly name: string;
  /** What is done in it, and by transitions that lead nowhere. */
  readonly actions: readonly string[];
  /** Its histories: ways back to what was active last. */
  readonly histories: readonly HistoryPicture[];
  readonly regions: readonly RegionPicture[];
}

export interface HistoryPicture {
  readonly id: string;
  readonly name: string;
  /** It goes back to the innermost states. */
  readonly deep: boolean;
}

/** A transition, or the way of a history that has nothing to go back to. */
export interface ArrowPicture {
  readonly from: string;
  /** A state or history, maybe of another region; a name that leads nowhere stays as it is written. */
  readonly to: string;
  readonly label: string;
}

export interface RegionPicture {
  readonly id: string;
  readonly name: string;
  readonly initial: string;
  readonly states: readonly StatePicture[];
  readonly arrows: readonly ArrowPicture[];
}

/** What can be drawn of an item: derived from the text, never edited. */
export type Picture =
  | { readonly k: 'net'; readonly slips: readonly Slip[]; readonly links: readonly Link[] }
  | { readonly k: 'chart'; readonly regions: readonly RegionPicture[] }
  | { readonly k: 'equations'; readonly lines: readonly { readonly left: string; readonly right: string }[] }
  | { readonly k: 'text' };

/** A loop or component in the list at the left. */
export interface OutlineItem {
  readonly id: string;
  readonly kind: 'loop' | 'component' | 'document';
  readonly name: string;
  /** For instance "chart · 17 states · 80 ms". */
  readonly line: string;
  readonly about: string;
  readonly file: string;
  readonly faults: number;
}

/** A signal or parameter of a face. */
export interface FacePort {
  readonly name: string;
  readonly type: string;
  readonly unit: string;
  readonly about: string;
  readonly min?: number;
  readonly max?: number;
  /** Parameters: the value, and whether the text can take another one. */
  readonly value?: number | boolean | string;
}

export interface Face {
  readonly component: string;
  readonly about: string;
  readonly picture?: ComponentPicture;
  readonly inputs: readonly FacePort[];
  readonly outputs: readonly FacePort[];
  readonly parameters: readonly FacePort[];
}

/** Everything the model's screen shows of a set of documents, for one item of the outline. */
export interface ModelView {
  readonly outline: readonly OutlineItem[];
  readonly at: string;
  readonly picture: Picture;
  /** A sentence that counts what is there. */
  readonly headline: string;
  readonly face?: Face;
  readonly faults: readonly Fault[];
  /** Suspicious, but no hindrance. */
  readonly warnings: readonly Fault[];
  /** Names one may write in the item's document, for completion. */
  readonly names: readonly { readonly name: string; readonly about: string }[];
}
