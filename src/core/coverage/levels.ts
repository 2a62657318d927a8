import { type CoverageKind, coverageKinds, type IntegrityLevel } from '@/core/shapes';
import type { CoverageItem } from './coverage';

/**
 * What integrity levels ask for, put as parts of a model's logic. Statements are held to be covered where every state is entered and every outcome seen; branches and decisions where every transition is taken
 * and every outcome and row seen; MC/DC where every condition is seen to decide.
 *
 * From memory, and to be checked against the standard that is agreed on: DO-178C table A-7 (objectives 5 to 7: MC/DC at level A, decisions at A and B, statements at A to C), ISO 26262-6:2018 table 9 (statements,
 * branches, MC/DC; what is recommended or highly recommended at a level is asked for where it is highly recommended), IEC 61508-3:2010 table B.2 (statements from SIL 2, branches from SIL 3, conditions at SIL 4
 * highly recommended).
 */
const statements = ['states', 'outcomes', 'rows'] as const;
const branches = ['states', 'transitions', 'outcomes', 'rows'] as const;
const decisions = [...branches, 'conditions'] as const;
const levels: Readonly<Record<IntegrityLevel, readonly CoverageKind[]>> = {
  'DO-178C A': decisions,
  'DO-178C B': branches,
  'DO-178C C': statements,
  'DO-178C D': [],
  'ISO 26262 ASIL A': statements,
  'ISO 26262 ASIL B': branches,
  'ISO 26262 ASIL C': branches,
  'ISO 26262 ASIL D': decisions,
  'IEC 61508 SIL 1': [],
  'IEC 61508 SIL 2': statements,
  'IEC 61508 SIL 3': branches,
  'IEC 61508 SIL 4': decisions,
};

const kindOfItem: Readonly<Record<CoverageItem['kind'], CoverageKind>> = {
  state: 'states',
  transition: 'transitions',
  outcome: 'outcomes',
  row: 'rows',
  position: 'positions',
  limit: 'limits',
  message: 'messages',
};

/** The kinds of parts that a project asks its cases to touch: those of a level, those it names, or all. */
export function kindsAsked(coverage: IntegrityLevel | readonly CoverageKind[] | undefined): ReadonlySet<CoverageKind> {
  if (coverage === undefined) return new Set(coverageKinds);
  return new Set(typeof coverage === 'string' ? levels[coverage] : coverage);
}

/** The kind of part that an item, or a condition, is. */
export function kindOf(item: Pick<CoverageItem, 'kind'> | { readonly deciding: readonly boolean[] }): CoverageKind {
  return 'kind' in item ? kindOfItem[item.kind] : 'conditions';
}
