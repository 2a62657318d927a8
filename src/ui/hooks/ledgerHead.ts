import type { Ledger } from '@/core/evidence';

/** The head of a ledger, and as many of its rows as a page comes with. */
export interface LedgerHead {
  readonly ledger: Ledger;
  /** How many rows there are. */
  readonly total: number;
}

/** Rows that a page comes with where there are more than a page comes with whole. */
const fewRows = 60;
const mostWhole = 300;

/** What a page is given of a ledger: all rows, or of thousands the first ones, the others being fetched once it is there. */
export function ledgerHead(ledger: Ledger): LedgerHead {
  const total = ledger.rows.length;
  return { ledger: total <= mostWhole ? ledger : { ...ledger, rows: ledger.rows.slice(0, fewRows) }, total };
}
