import { useEffect, useState } from 'react';
import type { CompareSettings } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { openRuns } from '../campaigns/results/openRuns';
import { askEngine } from '../engine/engine';
import type { Compared, ComparedWith } from '../engine/messages';

/** A run of a project compared with others; the last answer stays until the next is there. */
export function useComparison(
  files: readonly SourceFile[],
  first: string | undefined,
  others: readonly ComparedWith[],
  settings: CompareSettings,
): { readonly found?: Compared; readonly problem?: string } {
  const [state, setState] = useState<{ readonly found?: Compared; readonly problem?: string }>({});
  const key = JSON.stringify([first ?? null, others, settings]);
  useEffect(() => {
    let wanted = true;
    const [one, wantedOthers, how] = JSON.parse(key) as [string | null, ComparedWith[], CompareSettings];
    const run = wantedOthers.find((other) => other.k === 'campaign run');
    const ready = run ? openRuns(run.campaign, run.document) : Promise.resolve();
    ready
      .then(() => askEngine('compare', { files, settings: how, others: wantedOthers, ...(one ? { first: one } : {}) }))
      .then((found) => wanted && setState({ found }))
      .catch((problem: unknown) => wanted && setState((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem) })));
    return () => {
      wanted = false;
    };
  }, [files, key]);
  return state;
}
