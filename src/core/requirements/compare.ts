import { diffWordsWithSpace } from 'diff';
import type { RequirementDocument } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RequirementItem } from './requirementItem';

/** What an import would do to one requirement. */
export type Difference =
  | { readonly k: 'new'; readonly item: RequirementItem }
  | {
      readonly k: 'changed';
      readonly item: RequirementItem;
      readonly before: string;
      readonly words: readonly WordChange[];
      readonly accepted: number;
    }
  | { readonly k: 'moved'; readonly item: RequirementItem; readonly before: string }
  | { readonly k: 'removed'; readonly id: string; readonly text: string; readonly criteria: number };

export interface WordChange {
  readonly text: string;
  readonly how: 'same' | 'added' | 'removed';
}

export interface ImportComparison {
  readonly differences: readonly Difference[];
  readonly unchanged: number;
  /** Ids that the import holds twice; only the first counts. */
  readonly doubled: readonly string[];
}

/** An import against what the project has, by id. Blanks and line breaks are no difference. */
export function compareImport(present: readonly RequirementDocument[], items: readonly RequirementItem[]): ImportComparison {
  const known = new Map(present.map((one) => [nameKey(one.raw.requirement), one]));
  const seen = new Set<string>();
  const doubled: string[] = [];
  let unchanged = 0;
  const differences: Difference[] = [];
  for (const item of items) {
    const key = nameKey(item.id);
    if (seen.has(key)) {
      doubled.push(item.id);
      continue;
    }
    seen.add(key);
    const before = known.get(key);
    if (!before) differences.push({ k: 'new', item });
    else if (folded(before.raw.text) !== folded(item.text)) {
      const accepted = (before.raw.criteria ?? []).filter((one) => one.accepted).length;
      differences.push({ k: 'changed', item, before: before.raw.text, words: wordChanges(before.raw.text, item.text), accepted });
    } else if (before.section !== item.section) differences.push({ k: 'moved', item, before: before.section });
    else unchanged += 1;
  }
  for (const { raw } of present)
    if (!seen.has(nameKey(raw.requirement)))
      differences.push({ k: 'removed', id: raw.requirement, text: raw.text, criteria: raw.criteria?.length ?? 0 });
  return { differences, unchanged, doubled };
}

function folded(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}

/** A text against an earlier one, word by word (Myers 1986, by the library). */
export function wordChanges(before: string, after: string): WordChange[] {
  return diffWordsWithSpace(folded(before), folded(after)).map(({ value, added, removed }) => ({
    text: value,
    how: added ? 'added' : removed ? 'removed' : 'same',
  }));
}
