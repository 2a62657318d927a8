import type { Fault } from '@/core/fault';
import type { useDrafts } from '../../drafts/useDrafts';
import { TextPane, type TextPaneProps } from './TextPane';

interface DraftTextProps extends Pick<TextPaneProps, 'path' | 'names'> {
  readonly faults: readonly Fault[];
  readonly drafts: ReturnType<typeof useDrafts>;
}

/** The text of a document beside a form for it: both write into one draft with one history. */
export function DraftText({ path, names, faults, drafts }: DraftTextProps) {
  return (
    <TextPane
      path={path}
      text={drafts.text(path)}
      line={undefined}
      faults={faults}
      warnings={[]}
      names={names}
      edit={(text) => drafts.edit(path, text, true)}
      undo={drafts.undo}
      redo={drafts.redo}
      goTo={() => undefined}
      rename={() => undefined}
    />
  );
}
