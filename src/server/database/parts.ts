/** Rows in one statement: PostgreSQL takes 65,535 bound values, and a row has up to a dozen. */
const rowsInStatement = 1000;

/** Rows cut into parts that a statement can take. */
export function inParts<T>(rows: readonly T[]): T[][] {
  return Array.from({ length: Math.ceil(rows.length / rowsInStatement) }, (_, index) =>
    rows.slice(index * rowsInStatement, (index + 1) * rowsInStatement),
  );
}
