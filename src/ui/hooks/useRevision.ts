'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import type { SourceFile } from '@/core/documents';

/** The documents of a revision, as a page got them from the server. */
export interface Revision {
  readonly revision: number;
  readonly files: readonly SourceFile[];
}

/** Documents that stay the same list as long as the revision is the same: a page that is fetched anew, because runs came in, must not begin its work again. */
export function useFilesOf({ revision, files }: Revision): readonly SourceFile[] {
  const [held, setHeld] = useState({ revision, files });
  if (held.revision === revision) return held.files;
  setHeld({ revision, files });
  return files;
}

export interface OpenedRevision {
  readonly opened: Revision;
  /** Somebody saved since. */
  readonly isOlder: boolean;
  /** Goes over to the newest revision there is; `and` is done in the same moment. */
  openNewest(and?: () => void): void;
}

/** For a page on which work goes on for long, such as a run by hand: it keeps the revision it was opened with, whoever saves meanwhile, until it is asked to go over. */
export function useRevision(newest: Revision): OpenedRevision {
  const router = useRouter();
  const [opened, setOpened] = useState(newest);
  const [wanted, setWanted] = useState<{ and: (() => void) | undefined }>();
  const [isComing, fetchAnew] = useTransition();
  useEffect(() => {
    if (!wanted || isComing) return;
    setWanted(undefined);
    setOpened(newest);
    wanted.and?.();
  }, [wanted, isComing, newest]);
  const openNewest = (and?: () => void): void => {
    setWanted({ and });
    fetchAnew(() => router.refresh());
  };
  return { opened, isOlder: newest.revision > opened.revision, openNewest };
}
