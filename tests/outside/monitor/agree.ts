import type { Judgement } from '@/core/criteria';
import { Oracle, type Owed, type Row, type Sent } from './oracle';
import { writeCsv, writeSentence } from './random';

type Judge = (csv: string, sentence: string) => Judgement;

/** Says where monitor and oracle differ on one trace and sentence; nothing when they agree. */
export function disagreement(judge: Judge, list: readonly Row[], sent: Sent): string | undefined {
  const found = judge(writeCsv(list), writeSentence(sent));
  const wanted = new Oracle(list).owed(sent);
  if (found.obligations.length !== wanted.length) return `${found.obligations.length} obligations, the oracle has ${wanted.length}`;
  for (const [index, one] of found.obligations.entries()) {
    const other = wanted[index] as Owed;
    for (const key of ['from', 'until', 'outcome', 'at'] as const) {
      if (!same(one[key], other[key])) return `obligation ${index}: ${key} ${one[key]}, the oracle has ${other[key]}`;
    }
    // Where a value is missing the margin is not defined.
    if (list.some((row) => Number.isNaN(row.x))) continue;
    if (!same(one.margin?.value, other.margin)) return `obligation ${index}: margin ${one.margin?.value}, the oracle has ${other.margin}`;
    if ((one.margin?.atLeast ?? false) !== (other.atLeast ?? false))
      return `obligation ${index}: atLeast ${one.margin?.atLeast}, the oracle has ${other.atLeast}`;
  }
  const verdict = verdictOf(wanted);
  return found.verdict === verdict ? undefined : `verdict ${found.verdict}, the oracle has ${verdict}`;
}

function verdictOf(owed: readonly Owed[]): string {
  if (owed.some((one) => one.outcome === 'broken')) return 'fail';
  if (owed.some((one) => one.outcome === 'met')) return 'pass';
  return owed.length > 0 ? 'inconclusive' : 'none';
}

function same(a: number | string | undefined, b: number | string | undefined): boolean {
  return typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) < 1e-9 : a === b;
}
