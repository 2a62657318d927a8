import { csvCell } from '@/core/formats';

/** Rows of words and numbers as CSV. */
export function csvOf(rows: readonly (readonly (string | number)[])[]): string {
  return `${rows.map((row) => row.map((cell) => csvCell(String(cell))).join(',')).join('\n')}\n`;
}
