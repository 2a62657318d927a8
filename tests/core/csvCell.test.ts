import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cellText, csvCell } from '@/core/formats';
import { readCsvTable, writeCsvTable } from '@/core/requirements';

describe('a cell of comma separated text', () => {
  const awkward = fc.string({
    unit: fc.constantFrom('=', '+', '-', '@', '\t', '\r', "'", '"', ',', ';', '\n', 'a', '1', '.', ' ', '−'),
    maxLength: 8,
  });

  it('never begins as a formula does, unless it is a number, and is read back unchanged', () => {
    fc.assert(
      fc.property(awkward, (text) => {
        const [[cell = ''] = []] = parse(csvCell(text), { relax_quotes: false, skip_empty_lines: false }) as string[][];
        if (Number.isNaN(Number(text)) || text.trim() !== text) expect(cell).not.toMatch(/^[=+\-@\t\r]/);
        expect(cellText(cell)).toBe(text);
      }),
      { numRuns: 3000 },
    );
    expect(['-0.5', '+3', '-1e-9', '-'].map(csvCell)).toEqual(['-0.5', '+3', '-1e-9', "'-"]);
  });

  it('goes through a table and back', () => {
    fc.assert(
      fc.property(fc.array(fc.array(awkward, { minLength: 2, maxLength: 2 }), { minLength: 1, maxLength: 5 }), (rows) => {
        // Blanks around a cell are those of the table, not of its text.
        const table = [['a', 'b'], ...rows.map((row) => row.map((cell) => `x${cell}x`))];
        expect(readCsvTable(writeCsvTable(table))).toEqual({ headings: table[0], rows: table.slice(1) });
      }),
    );
    const hostile = [
      ['id', 'text'],
      ['=cmd()', '-1+2'],
      ["'=quoted", '@x'],
    ];
    expect(readCsvTable(writeCsvTable(hostile))).toEqual({ headings: hostile[0], rows: hostile.slice(1) });
  });
});
