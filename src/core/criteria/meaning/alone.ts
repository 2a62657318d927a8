import { Faults } from '@/core/fault';
import { FormulaText } from '@/core/formula';
import type { Catalogue } from '@/core/loop';
import { loneText } from '@/core/yaml';
import type { Criterion } from '../types';
import { compileCriterion } from './compile';

/** A sentence that stands in no document, with the place of each of its faults inside it. */
export interface SentenceCheck {
  readonly criterion?: Criterion;
  readonly faults: readonly { readonly from: number; readonly message: string; readonly fix: string }[];
}

/** Reads and binds a sentence typed by itself: on the command line, in an editor's line, or proposed and not written down yet. */
export function compileAlone(sentence: string, catalogue: Catalogue): SentenceCheck {
  const faults = new Faults();
  const criterion = compileCriterion(new FormulaText(loneText('criterion', sentence), [], sentence, faults), catalogue);
  const told = faults.all().map(({ place, message, fix }) => ({ from: place.column - 1, message, fix }));
  return { ...(criterion && told.length === 0 ? { criterion } : {}), faults: told };
}
