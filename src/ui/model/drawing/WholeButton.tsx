import type { RefObject } from 'react';
import type { PanelImperativeHandle } from 'react-resizable-panels';

interface WholeButtonProps {
  /** The drawing has the place for itself: face and text are folded away. */
  readonly alone: boolean;
  /** There is a drawing that can be seen as a whole. */
  readonly drawn: boolean;
  readonly words: RefObject<PanelImperativeHandle | null>;
}

/** As high as at first: how high they were before is not known once the page has been loaded anew. */
const usual = '42%';

/** Brings face and text back, if they are folded away. */
export function unfold(words: WholeButtonProps['words']): void {
  if (words.current?.isCollapsed()) words.current.resize(usual);
}

/** Folds face and text away, so that all of the drawing can be seen; and brings them back. */
export function WholeButton({ alone, drawn, words }: WholeButtonProps) {
  if (!alone && !drawn) return null;
  return (
    <button type="button" className="act shrink-0" onClick={() => (alone ? unfold(words) : words.current?.collapse())}>
      {alone ? 'Face and text' : 'Whole drawing'}
    </button>
  );
}
