import type { StopRule } from '@/core/project';
import { type Standing, standingOf } from '@/core/statistics';
import type { RunTable } from './table';

/** How far the runs have been looked at, in the order of their numbers; plain data, so that another process goes on from there. */
export interface LookedAt {
  /** Runs up to here, from the first on, have been looked at. */
  readonly runs: number;
  readonly failed: number;
  /** Of them those that decide the claim. */
  readonly decided: number;
  /** The rule has ended the campaign: the runs after `runs` do not count. */
  readonly ended?: EarlyEnd;
}

/** What ended a campaign before all its runs were made. */
export type EarlyEnd = 'first fail' | Exclude<Standing, 'open'>;

export const notLooked: LookedAt = { runs: 0, failed: 0, decided: 0 };

/**
 * Looks at further runs, as far as they are there without a gap. Runs are looked at by their number, in whatever order they came, so the campaign ends after the same run
 * however many workers there are.
 * @param from how many runs come before the first one of the table
 */
export function lookOn(rule: StopRule, table: RunTable, before: LookedAt, from = 0): LookedAt {
  let now = before;
  for (let index = now.runs - from; rule.k !== 'all' && !now.ended && table.verdict(index) !== undefined; index += 1)
    now = rule.k === 'claim' ? withClaim(rule, table, index, now) : withRun(table, index, now);
  return now;
}

/** One run further, with its verdict. */
function withRun(table: RunTable, index: number, { runs, failed, decided }: LookedAt): LookedAt {
  const isFail = table.verdict(index) === 'fail';
  return { runs: runs + 1, failed: failed + Number(isFail), decided: decided + 1, ...(isFail ? { ended: 'first fail' as const } : {}) };
}

/** One run further, with what it says of the claim. */
function withClaim(rule: StopRule & { k: 'claim' }, table: RunTable, index: number, before: LookedAt): LookedAt {
  const found = outcomeOf(table, rule.requirement, index);
  const runs = before.runs + 1;
  if (found === undefined) return { ...before, runs };
  const [failed, decided] = [before.failed + Number(found === 'fail'), before.decided + 1];
  const standing = standingOf(rule, failed, decided);
  return { runs, failed, decided, ...(standing === 'open' ? {} : { ended: standing }) };
}

/** A requirement fails where any of its criteria does, and passes where all pass in a run that counts; else the run decides nothing. */
function outcomeOf(table: RunTable, requirement: string, index: number): 'pass' | 'fail' | undefined {
  const verdicts = table.criteria.flatMap((one, criterion) => (one.requirement === requirement ? [table.finding(criterion, index)?.verdict] : []));
  if (verdicts.includes('fail')) return 'fail';
  if (table.error(index) || table.isDiscounted(index)) return undefined;
  return verdicts.length > 0 && verdicts.every((one) => one === 'pass') ? 'pass' : undefined;
}
