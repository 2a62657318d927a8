import { withJustification } from '@/core/project';
import { today } from '../drafts/today';
import type { useDrafts } from '../drafts/useDrafts';

/** Where it is written what need not be touched or reached. */
const place = 'coverage.yaml';

/** Writes down why a part of the logic need not be touched, or a goal not be reached. */
export function useJustified(drafts: ReturnType<typeof useDrafts>): (part: string, logic: string, reason: string) => void {
  return (part, logic, reason) => {
    const text = withJustification(drafts.text(place), { part, reason, ...today(), logic });
    if (text !== undefined) drafts.edit(place, text);
  };
}
