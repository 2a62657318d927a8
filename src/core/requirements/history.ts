import { readProject, type SourceFile } from '@/core/documents';
import { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import type { RawCriterion, RawRequirement } from '@/core/shapes';
import { type WordChange, wordChanges } from './compare';

/** The documents of requirements as one revision held them. */
export interface RequirementsVersion {
  readonly revision: number;
  readonly on: string;
  readonly by: string;
  readonly note: string;
  readonly files: readonly SourceFile[];
}

export type RequirementStep =
  | { readonly k: 'written' | 'removed' }
  | { readonly k: 'prose'; readonly words: readonly WordChange[] }
  | {
      readonly k: 'criterion';
      readonly name: string;
      readonly what: 'added' | 'removed' | 'changed' | 'accepted' | 'taken back';
      readonly sentence: string;
    };

/** What became of one requirement in one revision. */
export interface HistoryEntry extends Omit<RequirementsVersion, 'files'> {
  readonly steps: readonly RequirementStep[];
}

/**
 * The history of one requirement: every revision in which its prose, its criteria or what was accepted of them changed, the newest first.
 * @param versions in the order of their revisions
 */
export function historyOf(id: string, versions: readonly RequirementsVersion[]): HistoryEntry[] {
  let before: RawRequirement | undefined;
  const entries = versions.flatMap(({ files, ...version }): HistoryEntry[] => {
    const now = requirementIn(files, id);
    const steps = stepsBetween(before, now);
    before = now;
    return steps.length > 0 ? [{ ...version, steps }] : [];
  });
  return entries.reverse();
}

function requirementIn(files: readonly SourceFile[], id: string): RawRequirement | undefined {
  const { requirements } = readProject(files, new Faults());
  return requirements.find(({ raw }) => nameKey(raw.requirement) === nameKey(id))?.raw;
}

function stepsBetween(before: RawRequirement | undefined, now: RawRequirement | undefined): RequirementStep[] {
  if (!now) return before ? [{ k: 'removed' }] : [];
  const prose: RequirementStep[] = !before
    ? [{ k: 'written' }]
    : before.text === now.text
      ? []
      : [{ k: 'prose', words: wordChanges(before.text, now.text) }];
  return [...prose, ...criteriaBetween(before?.criteria ?? [], now.criteria ?? [])];
}

function criteriaBetween(before: readonly RawCriterion[], now: readonly RawCriterion[]): RequirementStep[] {
  const step = (what: (RequirementStep & { k: 'criterion' })['what'], { criterion, sentence }: RawCriterion): RequirementStep => ({
    k: 'criterion',
    name: criterion,
    what,
    sentence,
  });
  const removed = before.filter((one) => !now.some((other) => other.criterion === one.criterion)).map((one) => step('removed', one));
  const others = now.flatMap((one): RequirementStep[] => {
    const old = before.find((other) => other.criterion === one.criterion);
    const written = !old ? [step('added', one)] : old.sentence === one.sentence ? [] : [step('changed', one)];
    const agreed = old?.sentence === one.sentence ? old.accepted : undefined;
    if (one.accepted && !agreed) return [...written, step('accepted', one)];
    return old?.accepted && !one.accepted ? [...written, step('taken back', one)] : written;
  });
  return [...removed, ...others];
}
