/** What a spreadsheet would take for a formula, behind any marks that already keep one from being it. */
const formula = /^'*[=+\-@\t\r]/;

/** A plain number, which no spreadsheet takes for anything else. */
const number = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i;

/**
 * A cell of comma separated text after RFC 4180. Text that a spreadsheet would take for a formula gets an apostrophe before it, numbers never do;
 * `cellText` takes it away again.
 */
export function csvCell(text: string): string {
  const safe = formula.test(text) && !number.test(text) ? `'${text}` : text;
  return /[",;\r\n\t]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** The text of a cell as it was before it was written by `csvCell`. */
export function cellText(cell: string): string {
  return cell.startsWith("'") && formula.test(cell.slice(1)) ? cell.slice(1) : cell;
}
