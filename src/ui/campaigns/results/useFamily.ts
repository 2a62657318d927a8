'use client';
import { useEffect, useState } from 'react';
import { chosenForFamily, type Response } from '@/core/campaign';
import type { CampaignProgress } from '@/core/evidence';
import { askEngine } from '../../engine/engine';
import { openRuns } from './openRuns';

/** Instants at which responses are compared. */
const instants = 361;
/** Runs that stand for all, and how many are made between two looks at the page. */
const mostRuns = 60;
const inTurn = 4;

export interface Family {
  /** Seconds between two instants. */
  readonly every: number;
  readonly responses: readonly Response[];
  /** The case as its document has it. */
  readonly nominal: Response | undefined;
  readonly wanted: number;
  readonly problem?: string;
}

const none: Family = { every: 0, responses: [], nominal: undefined, wanted: 0 };

/** The responses of one signal over the runs of a campaign, made again here, a few at a time. @param named runs that are among them in any case */
export function useFamily(
  { id, total }: Pick<CampaignProgress, 'id' | 'total'>,
  campaign: string,
  signal: string | undefined,
  named: number | undefined,
): Family {
  const [family, setFamily] = useState<Family>(none);
  useEffect(() => {
    if (signal === undefined) return;
    let wanted = true;
    const make = async (): Promise<void> => {
      await openRuns(id, campaign);
      const numbers = [0, ...chosenForFamily(total, mostRuns, named === undefined ? [] : [named])];
      if (wanted) setFamily({ ...none, wanted: numbers.length - 1 });
      for (let at = 0; at < numbers.length && wanted; at += inTurn) {
        const { every, responses } = await askEngine('responses', { numbers: numbers.slice(at, at + inTurn), signal, instants });
        const runs = responses.filter((one) => one.number > 0);
        const nominal = responses.find((one) => one.number === 0);
        if (wanted) setFamily((now) => ({ ...now, every, nominal: now.nominal ?? nominal, responses: [...now.responses, ...runs] }));
      }
    };
    make().catch(
      (problem: unknown) => wanted && setFamily((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem) })),
    );
    return () => {
      wanted = false;
    };
  }, [id, total, campaign, signal, named]);
  return family;
}
