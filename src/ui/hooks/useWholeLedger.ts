'use client';
import type { Ledger, LedgerRow } from '@/core/evidence';
import type { LedgerHead } from './ledgerHead';
import { useFetched } from './useFetched';

/** All rows of a ledger; until they are there the first ones, or those that were there before. */
export function useWholeLedger(slug: string, { ledger, total }: LedgerHead): { readonly rows: readonly LedgerRow[]; readonly isWhole: boolean } {
  const isWhole = ledger.rows.length === total;
  const { found } = useFetched<Ledger>(isWhole ? undefined : `/api/projects/${slug}/ledger?of=${ledger.mark}`);
  return isWhole ? { rows: ledger.rows, isWhole } : { rows: found?.rows ?? ledger.rows, isWhole: found !== undefined };
}
