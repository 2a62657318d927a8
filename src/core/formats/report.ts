import { csvCell } from './csvCell';
import type { ReportLine } from './junit';

/** The ledger as CSV, one row for each criterion (one for a requirement without). */
export function writeLedgerCsv(lines: readonly ReportLine[]): string {
  const head = [
    'section',
    'requirement',
    'text',
    'state',
    'reason',
    'criterion',
    'verdict',
    'margin',
    'unit',
    'at_least',
    'obligations',
    'worst_case',
    'worst_at_s',
  ];
  const rows = lines.flatMap(({ section, text, result }) => {
    const start = [section, result.id, text, result.state, result.reason];
    if (result.criteria.length === 0) return [[...start, '', '', '', '', '', '', '', '']];
    return result.criteria.map((criterion) => [
      ...start,
      criterion.name,
      criterion.verdict,
      criterion.margin?.value ?? '',
      criterion.margin?.unit ?? '',
      criterion.margin?.atLeast ? 'TRUE' : '',
      criterion.obligations,
      criterion.worst?.case ?? '',
      criterion.worst?.at ?? '',
    ]);
  });
  return `${[head, ...rows].map((row) => row.map((one) => csvCell(String(one))).join(',')).join('\r\n')}\r\n`;
}
