import { useEffect, useState } from 'react';
import type { CompareSettings } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { openRuns } from '../campaigns/results/openRuns';
import { askEngine } from '../engine/engine';
import type { Compared, ComparedWith } from '../engine/messages';

/** Two runs of a project, or a run and a recording, compared; the last answer stays until the next is there. */
export function useComparison(
  files: readonly SourceFile[],
  first: string | undefined,
  second: ComparedWith | undefined,
  settings: CompareSettings,
): { readonly found?: Compared; readonly problem?: string } {
  const [state, setState] = useState<{ readonly found?: Compared; readonly problem?: string }>({});
  const key = JSON.stringify([first, second, settings]);
  useEffect(() => {
    let wanted = true;
    const [one, other, how] = JSON.parse(key) as [string | null, ComparedWith | null, CompareSettings];
    const ready = other?.k === 'campaign run' ? openRuns(other.campaign, other.document) : Promise.resolve();
    ready
      .then(() => askEngine('compare', { files, settings: how, ...(one ? { first: one } : {}), ...(other ? { second: other } : {}) }))
      .then((found) => wanted && setState({ found }))
      .catch((problem: unknown) => wanted && setState((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem) })));
    return () => {
      wanted = false;
    };
  }, [files, key]);
  return state;
}
