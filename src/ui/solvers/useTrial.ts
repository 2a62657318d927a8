import { useEffect, useState } from 'react';
import type { SolverSetting, SourceFile, TrialPoint } from '@/core';
import { askEngine } from '../engine/engine';

export interface Trial {
  readonly cases: readonly string[];
  /** The case that is tried, once the project has been read. */
  readonly of?: string;
  readonly settings: readonly SolverSetting[];
  readonly points: readonly TrialPoint[];
  readonly problem?: string;
}

const nothing: Trial = { cases: [], settings: [], points: [] };

/** Solves a case in every setting of the grid, one after the other; each point is there as soon as it is known. */
export function useTrial(files: readonly SourceFile[], name: string | undefined): Trial {
  const [trial, setTrial] = useState<Trial>(nothing);
  useEffect(() => {
    let wanted = true;
    const solve = async (): Promise<void> => {
      const { cases, of, settings } = await askEngine('trial', { files, ...(name === undefined ? {} : { case: name }) });
      if (wanted) setTrial({ cases, settings, points: [], ...(of === undefined ? {} : { of }) });
      for (const setting of settings) {
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
  }, [files, name]);
  return trial;
}
