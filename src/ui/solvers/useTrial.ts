import { useEffect, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { SolverSetting, TrialPoint } from '@/core/trial';
import { askEngine } from '../engine/engine';
import type { TrialChoices } from '../engine/messages';

export interface Trial extends TrialChoices {
  readonly settings: readonly SolverSetting[];
  readonly points: readonly TrialPoint[];
  readonly problem?: string;
}

const nothing: Trial = { cases: [], loops: [], settings: [], points: [] };

/** Solves a case, or all cases of a loop, in every setting of the grid, one after the other; each point is there as soon as it is known. */
export function useTrial(files: readonly SourceFile[], name: string | undefined, loop: string | undefined): Trial {
  const [trial, setTrial] = useState<Trial>(nothing);
  useEffect(() => {
    let wanted = true;
    const solve = async (): Promise<void> => {
      const choices = await askEngine('trial', { files, ...(name === undefined ? {} : { case: name }), ...(loop === undefined ? {} : { loop }) });
      if (wanted) setTrial({ ...choices, points: [] });
      for (const setting of choices.settings) {
        if (!wanted) return;
        const point = await askEngine('trial point', { setting });
        if (wanted) setTrial((now) => ({ ...now, points: [...now.points, point] }));
      }
    };
    solve().catch(
      (problem: unknown) => wanted && setTrial((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem) })),
    );
    return () => {
      wanted = false;
    };
  }, [files, name, loop]);
  return trial;
}
