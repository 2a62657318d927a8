import { type ReportLine, writeJUnit, writeLedgerCsv } from '@/core/formats';
import type { Database } from '@/server/database';
import type { ProjectHead } from '@/server/projects';
import { readLedger } from './ledger';

/** The ledger as a file for other programs. */
export async function writeReport(db: Database, head: ProjectHead, format: 'csv' | 'junit'): Promise<string> {
  const { rows } = await readLedger(db, head);
  const lines: ReportLine[] = rows.map(({ section, text, result }) => ({ section, text, result }));
  return format === 'csv' ? writeLedgerCsv(lines) : writeJUnit(head.name, lines);
}
