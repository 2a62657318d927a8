'use client';
import { useState } from 'react';
import { normalSentence, paraphraseText } from '@/core/criteria';
import type { Proposal, Reading } from '@/core/reading';
import { criterionName, type RequirementChange, type RequirementView } from '@/core/requirements';
import { today } from '../drafts/today';
import type { useDrafts } from '../drafts/useDrafts';
import { askEngine } from '../engine/engine';

/** What is being written: a new criterion, one instead of a proposal, or one that stands already. */
export type Editing =
  | { readonly k: 'new' | 'proposal'; readonly sentence: string }
  | { readonly k: 'criterion'; readonly index: number; readonly sentence: string };

/** Accepting, changing and refusing what a requirement was read into; every decision is an edit of its document, with one history. */
export function useReadingWork(requirement: RequirementView | undefined, reading: Reading | undefined, drafts: ReturnType<typeof useDrafts>) {
  const [choices, setChoices] = useState<ReadonlyMap<string, number>>(new Map());
  const [open, setOpen] = useState<{ readonly of: string; readonly editing: Editing; readonly typed: string }>();
  const id = requirement?.id ?? '';
  const editing = open?.of === id ? open.editing : undefined;
  const offered = requirement && reading ? offeredIn(requirement, reading) : [];
  const chosenOf = (alternatives: readonly Proposal[]): Proposal | undefined =>
    alternatives[choices.get(`${id} ${alternatives[0]?.part}`) ?? 0] ?? alternatives[0];
  const chosen = offered.flatMap((alternatives) => chosenOf(alternatives) ?? []);
  const { change, addAll, problem } = useRequirementEdits(requirement, drafts);
  const start = (next: Editing): void => setOpen({ of: id, editing: next, typed: next.sentence });
  const closeEditor = (): void => setOpen(undefined);
  return {
    offered,
    editing,
    /** Why the latest change was not made. */
    problem,
    chosenOf,
    /** The sentence that is looked at on a trace. */
    shown: editing ? open?.typed : (requirement?.criteria[0]?.sentence ?? chosen[0]?.sentence),
    wordsOf: paraphraseText,
    choose: (part: number, index: number): void => setChoices((before) => new Map(before).set(`${id} ${part}`, index)),
    accept: (): void => {
      if (!requirement) return;
      const waiting = requirement.criteria.flatMap((one, index) => (one.accepted || one.meaning.faults.length > 0 ? [] : [index]));
      if (waiting.length > 0) void change(...waiting.map((index): RequirementChange => ({ k: 'accept', index, ...today() })));
      else if (requirement.criteria.length === 0 && chosen.length > 0) void change(...addAll(chosen.map((one) => one.sentence)));
    },
    reject: (): void => {
      if (requirement?.criteria.length === 0 && chosen.length > 0)
        void change(...chosen.map(({ sentence }): RequirementChange => ({ k: 'reject', sentence })));
    },
    edit: (): void => {
      if (!requirement) return;
      const [first] = requirement.criteria;
      if (first) start({ k: 'criterion', index: 0, sentence: first.sentence });
      else start(chosen[0] ? { k: 'proposal', sentence: chosen[0].sentence } : { k: 'new', sentence: '' });
    },
    typed: (sentence: string): void => setOpen((before) => before && { ...before, typed: sentence }),
    acceptEdited: (sentence: string): void => {
      if (editing?.k === 'criterion') {
        const { index } = editing;
        void change({ k: 'sentence', index, sentence }, { k: 'accept', index, ...today() });
      } else {
        // The other obligations of the prose are taken as they are chosen.
        const others = editing?.k === 'proposal' ? chosen.slice(1).map((one) => one.sentence) : [];
        void change(...addAll([sentence, ...others]));
      }
      closeEditor();
    },
    closeEditor,
    onCriterion: (index: number, what: 'accept' | 'take back' | 'remove' | 'edit'): void => {
      const criterion = requirement?.criteria[index];
      if (!criterion) return;
      if (what === 'edit') start({ k: 'criterion', index, sentence: criterion.sentence });
      else void change(what === 'accept' ? { k: 'accept', index, ...today() } : { k: what, index });
    },
  };
}

/** Changes of the chosen requirement, written into its document. */
function useRequirementEdits(requirement: RequirementView | undefined, drafts: ReturnType<typeof useDrafts>) {
  const [refused, setRefused] = useState<{ readonly of: string; readonly file: string }>();
  const id = requirement?.id ?? '';
  const change = async (...changes: RequirementChange[]): Promise<void> => {
    if (!requirement) return;
    const { file, path } = requirement;
    const text = await askEngine('edit requirement', { text: drafts.text(file), path, changes });
    if (text !== undefined) drafts.edit(file, text);
    setRefused(text === undefined ? { of: id, file } : undefined);
  };
  /** New criteria, each under a name of its own. */
  const addAll = (sentences: readonly string[]): RequirementChange[] => {
    const names = requirement?.criteria.map((one) => one.name) ?? [];
    return sentences.map((sentence) => {
      const criterion = criterionName(sentence, names);
      names.push(criterion);
      return { k: 'add', criterion, sentence, ...today() };
    });
  };
  const problem = refused?.of === id ? `Nothing was changed: ${refused.file} cannot be read at ${id}. Fix that file and import it again.` : undefined;
  return { change, addAll, problem };
}

export type ReadingWork = ReturnType<typeof useReadingWork>;

/** Proposals by the obligation they speak of, without those that were refused. */
function offeredIn({ rejected }: RequirementView, { proposals }: Reading): Proposal[][] {
  const refused = new Set(rejected.map(normalSentence));
  const parts = new Map<number, Proposal[]>();
  for (const proposal of proposals)
    if (!refused.has(normalSentence(proposal.sentence))) parts.set(proposal.part, [...(parts.get(proposal.part) ?? []), proposal]);
  return [...parts.values()];
}
