import ExcelJS from 'exceljs';
import type { Table } from '@/core/requirements';

/** Largest sheet that is read. */
const mostRows = 50_000;
const mostColumns = 200;

/** The first sheet of a workbook (Office Open XML) as text. @returns a sentence that says what is wrong with it, if something is */
export async function readXlsx(bytes: Uint8Array): Promise<Table | { readonly problem: string }> {
  const workbook = new ExcelJS.Workbook();
  try {
    await workbook.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
  } catch {
    return { problem: 'This is no workbook that can be read. Save it as .xlsx, without a password.' };
  }
  const sheet = workbook.worksheets[0];
  if (!sheet || sheet.rowCount === 0) return { problem: 'The first sheet is empty.' };
  // Counted once: the library goes through all rows for it.
  const columns = sheet.columnCount;
  if (sheet.rowCount > mostRows || columns > mostColumns)
    return { problem: `The sheet has ${sheet.rowCount} rows and ${columns} columns; at most ${mostRows} and ${mostColumns} are read.` };
  const rows: string[][] = [];
  sheet.eachRow((row) => {
    rows.push(Array.from({ length: columns }, (_, index) => row.getCell(index + 1).text.trim()));
  });
  const [headings = [], ...rest] = rows;
  return { headings, rows: rest };
}

/** Rows of text as a workbook of one sheet, the first row fixed as its heading. */
export async function writeXlsx(rows: readonly (readonly string[])[], title: string): Promise<ArrayBuffer> {
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet(title, { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const row of rows) sheet.addRow(row);
  sheet.getRow(1).font = { bold: true };
  sheet.columns.forEach((column, index) => {
    column.width = Math.min(90, Math.max(10, ...rows.map((row) => row[index]?.length ?? 0)));
    column.alignment = { wrapText: true, vertical: 'top' };
  });
  return workbook.xlsx.writeBuffer() as Promise<ArrayBuffer>;
}
