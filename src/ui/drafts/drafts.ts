import type { SourceFile } from '@/core/documents';

/** A document as it is being written, the saved text it was begun from, and the revision that held it. */
export interface Draft {
  readonly text: string;
  readonly base: string;
  readonly begun: number;
}

interface Change {
  readonly path: string;
  readonly before: string;
  readonly after: string;
}

/** One step of the history: of one document, or of several at once. */
interface Edit {
  readonly changes: readonly Change[];
  /** Typing goes on in the same step of the history for a moment. */
  readonly at: number;
  /** Whatever belongs to one movement of the hand is one step, however long it takes. */
  readonly movement?: number;
}

/**
 * Drafts of a project's documents. Each holds the saved text it was begun from, so that whatever revision the page shows meanwhile, it is known what is mine and what is theirs.
 */
export interface Drafts {
  /** A draft whose text is its base was saved, and stands until the page shows that revision. */
  readonly texts: ReadonlyMap<string, Draft>;
  /** The newest revision saved from here. */
  readonly savedAs: number;
  readonly past: readonly Edit[];
  readonly future: readonly Edit[];
}

/** The revision the page shows. */
export interface Head {
  readonly revision: number;
  readonly text: (path: string) => string;
}

export type Action =
  | { readonly k: 'edit'; readonly files: readonly SourceFile[]; readonly at: number; readonly typed: boolean; readonly movement?: number }
  | { readonly k: 'undo' }
  | { readonly k: 'redo' }
  /** What the browser has kept, from before a reload or from another page of the project. */
  | { readonly k: 'load'; readonly texts: ReadonlyMap<string, Draft | undefined> }
  /** Exactly these texts were saved; what was typed since is a draft on top of them. */
  | { readonly k: 'saved'; readonly files: readonly SourceFile[]; readonly revision: number }
  /** The page shows another revision. */
  | { readonly k: 'follow' }
  /** Drafts merged with the revision the page shows. */
  | { readonly k: 'merged'; readonly files: readonly SourceFile[] };

export const noDrafts: Drafts = { texts: new Map(), savedAs: 0, past: [], future: [] };

const oneStepMs = 800;
const mostSteps = 500;

/** A document as it is now: its draft, or as the page shows it. */
export function textOf(drafts: Drafts, head: Head, path: string): string {
  return drafts.texts.get(path)?.text ?? head.text(path);
}

/** Drafts that say something else than what they were begun from. */
export function changedIn(drafts: Drafts): Map<string, string> {
  return new Map([...drafts.texts].flatMap(([path, { text, base }]) => (text === base ? [] : [[path, text] as const])));
}

/** The oldest revision that a draft was begun on; nothing without drafts. */
export function begunOn(drafts: Drafts): number | undefined {
  const begun = [...drafts.texts.values()].flatMap((draft) => (draft.text === draft.base ? [] : [draft.begun]));
  return begun.length > 0 ? Math.min(...begun) : undefined;
}

/** Documents that somebody else has changed since their draft was begun. A save would overwrite what they wrote. */
export function overtaken(drafts: Drafts, head: Head): string[] {
  if (head.revision < drafts.savedAs) return [];
  return [...drafts.texts].flatMap(([path, { text, base }]) => (text !== base && head.text(path) !== base ? [path] : []));
}

/** The drafts after something has happened. */
export function reduce(state: Drafts, action: Action, head: Head): Drafts {
  switch (action.k) {
    case 'edit':
      return edited(state, action, head);
    case 'undo': {
      const edit = state.past.at(-1);
      if (!edit) return state;
      // What another page or a merge has written meanwhile is not taken back: the steps before it are no longer about this text.
      if (edit.changes.some(({ path, after }) => textOf(state, head, path) !== after)) return { ...state, past: [] };
      const undone = edit.changes.map(({ path, before }) => ({ path, text: before }));
      return { ...put(state, undone, head), past: state.past.slice(0, -1), future: [edit, ...state.future] };
    }
    case 'redo': {
      const [edit, ...rest] = state.future;
      if (!edit) return state;
      if (edit.changes.some(({ path, before }) => textOf(state, head, path) !== before)) return { ...state, future: [] };
      const redone = edit.changes.map(({ path, after }) => ({ path, text: after }));
      return { ...put(state, redone, head), past: [...state.past, edit], future: rest };
    }
    case 'load': {
      const texts = new Map(state.texts);
      for (const [path, draft] of action.texts) {
        if (draft) texts.set(path, draft);
        else texts.delete(path);
      }
      return settled({ ...state, texts }, head);
    }
    case 'saved': {
      const texts = new Map(state.texts);
      for (const { path, text } of action.files) texts.set(path, { text: texts.get(path)?.text ?? text, base: text, begun: action.revision });
      // The history lives on: an undo after a save makes a new draft.
      return settled({ ...state, texts, savedAs: action.revision }, head);
    }
    case 'follow':
      return settled(state, head);
    case 'merged': {
      const texts = new Map(state.texts);
      for (const { path, text } of action.files) texts.set(path, { text, base: head.text(path), begun: head.revision });
      return settled({ ...state, texts, past: [], future: [] }, head);
    }
  }
}

function edited(state: Drafts, { files, at, typed, movement }: Action & { k: 'edit' }, head: Head): Drafts {
  const changes = files.flatMap(({ path, text }) => {
    const before = textOf(state, head, path);
    return before === text ? [] : [{ path, before, after: text }];
  });
  const [change] = changes;
  if (!change) return state;
  const last = state.past.at(-1);
  const [begunWith] = last?.changes ?? [];
  const follows = last?.changes.length === 1 && begunWith?.path === change.path && begunWith.after === change.before;
  const joins = follows && (movement === undefined ? typed && at - last.at < oneStepMs : movement === last.movement);
  const edit: Edit = {
    changes: joins && begunWith ? [{ ...change, before: begunWith.before }] : changes,
    at,
    ...(movement === undefined ? {} : { movement }),
  };
  const past = [...(joins ? state.past.slice(0, -1) : state.past), edit].slice(-mostSteps);
  return { ...put(state, files, head), past, future: [] };
}

/** Takes texts in; the base of each is pinned when its draft begins. */
function put(state: Drafts, files: readonly SourceFile[], head: Head): Drafts {
  const texts = new Map(state.texts);
  for (const { path, text } of files) texts.set(path, { base: head.text(path), begun: head.revision, ...texts.get(path), text });
  return settled({ ...state, texts }, head);
}

/** Lets go of drafts that say nothing of their own, once the page shows what they were saved as. */
function settled(state: Drafts, head: Head): Drafts {
  if (head.revision < state.savedAs) return state;
  const texts = new Map([...state.texts].filter(([, { text, base }]) => text !== base));
  return { ...state, texts };
}
