'use client';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { RequirementsInspection } from '@/core/requirements';
import { askEngine } from '../engine/engine';

export interface Inspected {
  readonly view: RequirementsInspection;
  /** Counts the answers: readings and previews made for an earlier one no longer hold. Zero until the engine has read anything, and can be asked for them. */
  readonly version: number;
}

/**
 * The requirements as the engine reads the documents, anew after each edit; the last answer stays until the next is there.
 * @param first what the server has read, to begin with
 */
export function useRequirements(
  files: readonly SourceFile[],
  first: RequirementsInspection | undefined,
): { readonly inspected: Inspected | undefined; readonly problem: string | undefined } {
  const [inspected, setInspected] = useState<Inspected | undefined>(first && { view: first, version: 0 });
  const [problem, setProblem] = useState<string>();
  const asked = useRef(0);
  useEffect(() => {
    asked.current += 1;
    const mine = asked.current;
    askEngine('requirements', { files }).then(
      (view) => mine === asked.current && setInspected({ view, version: mine }),
      (reason: unknown) => mine === asked.current && setProblem(reason instanceof Error ? reason.message : String(reason)),
    );
  }, [files]);
  return { inspected, problem };
}
