'use client';
import type { Fault } from '@/core/fault';
import type { EditedCase } from '@/core/project';
import type { useDrafts } from '../../drafts/useDrafts';
import { TextPane } from '../../model/text/TextPane';

interface CaseTextProps {
  readonly path: string;
  readonly faults: readonly Fault[];
  readonly view: EditedCase | undefined;
  readonly drafts: ReturnType<typeof useDrafts>;
}

/** The text of a case, in the same history as its lanes. */
export function CaseText({ path, faults, view, drafts }: CaseTextProps) {
  return (
    <TextPane
      path={path}
      text={drafts.text(path)}
      line={undefined}
      faults={faults}
      warnings={[]}
      names={view?.names ?? []}
      edit={(text) => drafts.edit(path, text, true)}
      undo={drafts.undo}
      redo={drafts.redo}
      goTo={() => undefined}
      rename={() => undefined}
    />
  );
}
