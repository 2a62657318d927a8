'use client';
import { useMemo } from 'react';
import type { CoverageReport } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import type { EngineTalk } from '../engine/messages';
import { useAsked } from '../hooks/useAsked';
import { useFetched } from '../hooks/useFetched';

/** In place of a campaign: the cases as they are written. */
export const allCases = 'cases';

/** What some runs touched, and how many of what they are. */
export interface FoundCoverage {
  readonly count: number;
  readonly what: 'case' | 'run';
  readonly report: CoverageReport;
  /** What is justified, has lapsed, and what stands for the logic of each gap, what one case alone touches, and which gaps no run can fill; known of cases that are run here. */
  readonly judged?: Pick<
    EngineTalk['coverage']['answer'],
    'justified' | 'lapsed' | 'marks' | 'alone' | 'unreachable' | 'unasked' | 'level' | 'uncounted'
  >;
}

interface Coverage {
  readonly found?: FoundCoverage;
  /** Loops of the project; known where its cases are run here. */
  readonly loops?: readonly string[];
  readonly problem?: string;
  readonly waiting: boolean;
}

/** What the cases touch, which are run here, or the runs of a campaign, which were counted as they were made. @param of `allCases`, the id of a campaign, or nothing */
export function useCoverage(slug: string, files: readonly SourceFile[], of: string | undefined): Coverage {
  const ask = useMemo(() => (of === allCases ? { files } : undefined), [files, of]);
  const here = useAsked('coverage', ask);
  const address = of === undefined || of === allCases ? undefined : `/api/projects/${slug}/campaigns/${of}/coverage`;
  const there = useFetched<{ runs: number; report: CoverageReport }>(address);
  if (of === undefined) return { waiting: false };
  if (of === allCases) {
    const { found, ...state } = here;
    return found ? { ...state, loops: found.loops, found: { count: found.cases, what: 'case', report: found.report, judged: found } } : state;
  }
  if (there.problem !== undefined) return { problem: there.problem, waiting: false };
  if (!there.found || there.of !== address) return { waiting: true };
  return { found: { count: there.found.runs, what: 'run', report: there.found.report }, waiting: false };
}
