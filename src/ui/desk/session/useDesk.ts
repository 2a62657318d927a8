import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Take, TakenCase } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { DeskChoice, OpenedDesk } from '@/core/project';
import { DeskLink, type Latest } from './DeskLink';
import type { Frame } from './messages';

/** A desk on the screen. */
export interface Desk {
  readonly link: DeskLink | undefined;
  readonly opened: OpenedDesk | undefined;
  readonly problem: string;
  /** Why the run stands still by itself. */
  readonly stopped: string;
  readonly conditionProblem: string;
  readonly take: { readonly take: Take; readonly svg: string } | undefined;
  readonly taken: TakenCase | undefined;
  readonly closeTake: () => void;
}

/** Opens a desk in a worker of its own, and closes it with the page. */
export function useDesk(files: readonly SourceFile[], choice: DeskChoice): Desk {
  const [link, setLink] = useState<DeskLink>();
  const [opened, setOpened] = useState<OpenedDesk>();
  const [problem, setProblem] = useState('');
  const [stopped, setStopped] = useState('');
  const [conditionProblem, setConditionProblem] = useState('');
  const [take, setTake] = useState<Desk['take']>();
  const [taken, setTaken] = useState<TakenCase>();
  const wanted = JSON.stringify(choice);
  useEffect(() => {
    const made = new DeskLink(files, JSON.parse(wanted) as DeskChoice);
    setLink(made);
    setOpened(undefined);
    setProblem('');
    setStopped('');
    setTake(undefined);
    setTaken(undefined);
    const hush = made.hearAll((told) => {
      if (told.k === 'opened') setOpened(told.desk);
      else if (told.k === 'problem') setProblem(told.message);
      else if (told.k === 'stopped') setStopped(told.why);
      else if (told.k === 'condition') setConditionProblem(told.problem);
      else if (told.k === 'take') setTake(told);
      else if (told.k === 'case') setTaken(told.taken);
    });
    const forget = made.hearFrames((frame) => {
      if (frame.running) setStopped('');
    });
    return () => {
      hush();
      forget();
      made.close();
    };
  }, [files, wanted]);
  const closeTake = (): void => {
    setTake(undefined);
    setTaken(undefined);
  };
  return { link, opened, problem, stopped, conditionProblem, take, taken, closeTake };
}

/** Something of the latest frame, when it has changed. */
export function useFrame<T extends string | number | boolean>(link: DeskLink, pick: (frame: Frame | undefined) => T): T {
  return useSyncExternalStore(
    link.hearFrames,
    () => pick(link.frame),
    () => pick(undefined),
  );
}

/** The latest curves and standings, some ten times a second. */
export function useLatest(link: DeskLink): Latest {
  return useSyncExternalStore(
    link.hearLatest,
    () => link.latest,
    () => link.latest,
  );
}
