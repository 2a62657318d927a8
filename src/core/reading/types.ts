/** Something of the project that prose may speak of. */
export interface Term {
  /** As it is written in a sentence. */
  readonly name: string;
  readonly kind: 'truth' | 'quantity' | 'whole' | 'state';
  readonly unit: string;
  readonly about: string;
  /** Its full name, where a sentence needs less of it. */
  readonly path?: string;
  /** Not on any face: prose rarely means it. */
  readonly inner?: boolean;
  /** A parameter: the same throughout a run. */
  readonly fixed?: boolean;
}

/** A stretch of the prose and what it was taken for. Offsets of characters; `until` is the first one behind. */
export interface ReadWord {
  readonly from: number;
  readonly to: number;
  readonly as: string;
}

/** One way to understand a requirement, or a part of it. Counts for nothing until a person accepts it. */
export interface Proposal {
  /** Which of the obligations of the text it speaks of, from 1; proposals of one part are alternatives. */
  readonly part: number;
  readonly sentence: string;
  readonly stl: string;
  /** Share of proposals like this one that were right on the labelled sentences (docs/reading.md), 0 to 1. */
  readonly confidence: number;
  readonly words: readonly ReadWord[];
  /** What was supposed beyond the words. */
  readonly supposed: readonly string[];
}

/** A part of the text that is shown as not read: whatever was read of it would deceive. */
export interface NotRead {
  readonly part: number;
  /** Why the best reading was not offered. */
  readonly because: string;
  /** What was understood of it all the same. */
  readonly words: readonly ReadWord[];
}

export interface Unplaced {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** A remark on the wording of a requirement. */
export interface Remark {
  readonly from: number;
  readonly to: number;
  readonly rule: string;
  readonly reason: string;
  readonly suggestion: string;
}

export interface Reading {
  readonly proposals: readonly Proposal[];
  /** Parts of which no reading is offered, though one fitted the rules. */
  readonly notRead: readonly NotRead[];
  /** Words that no proposal accounts for. */
  readonly unplaced: readonly Unplaced[];
  readonly quality: readonly Remark[];
}

/** Words of the project: other names for its signals, and words the house does not want. */
export interface HouseWords {
  /** From a phrase to the name it stands for. */
  readonly synonyms: Readonly<Record<string, string>>;
  /** From a word or phrase to what to do about it. */
  readonly vague: Readonly<Record<string, string>>;
}
