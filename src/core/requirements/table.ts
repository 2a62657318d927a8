import { parse } from 'csv-parse/browser/esm/sync';
import { cellText, csvCell } from '@/core/formats';
import { type RequirementItem, withIds } from './requirementItem';

/** What a column of a table may hold. */
export const tableFields = ['id', 'text', 'section', 'source', 'level', 'verifyBy'] as const;
export type TableField = (typeof tableFields)[number];

/** Which column holds what, by its heading. */
export type ColumnMapping = Readonly<Partial<Record<TableField, string>>>;

/** A table as it was read: its headings and rows of text. */
export interface Table {
  readonly headings: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/** Headings by which a column is known, the surest first. */
const usual: Readonly<Record<TableField, RegExp>> = {
  id: /^(?:id|identifier|key|number|no\.?|req(?:uirement)?[ _-]?(?:id|no)?)$/i,
  text: /^(?:text|requirement[ _-]?text|description|statement|prose|requirement|wording|shall)$/i,
  section: /^(?:section|chapter|heading|group|module|category)$/i,
  source: /^(?:source|origin|reference|document)$/i,
  level: /^(?:level|sil|asil|dal|integrity|criticality|class)$/i,
  verifyBy: /^(?:verif(?:y|ied|ication).*|method)$/i,
};

/** Reads comma or semicolon separated text (RFC 4180). @returns a sentence that says what is wrong with it, if something is */
export function readCsvTable(text: string): Table | { readonly problem: string } {
  const semicolons = (text.split('\n', 1)[0]?.match(/;/g) ?? []).length > (text.split('\n', 1)[0]?.match(/,/g) ?? []).length;
  try {
    const [headings = [], ...rows] = parse(text, {
      delimiter: semicolons ? ';' : ',',
      bom: true,
      skip_empty_lines: true,
      relax_column_count: true,
      trim: true,
    }) as string[][];
    return headings.length === 0 ? { problem: 'The table is empty.' } : { headings, rows: rows.map((row) => row.map(cellText)) };
  } catch (problem) {
    return { problem: `The table cannot be read: ${problem instanceof Error ? problem.message : String(problem)}` };
  }
}

/** A first guess which column holds what: by headings; the text is else the column with the longest cells. */
export function guessMapping({ headings, rows }: Table): ColumnMapping {
  const mapping: Partial<Record<TableField, string>> = {};
  const free = new Set(headings);
  for (const field of tableFields) {
    const found = headings.find((heading) => free.has(heading) && usual[field].test(heading.trim()));
    if (found === undefined) continue;
    mapping[field] = found;
    free.delete(found);
  }
  if (mapping.text === undefined) {
    const length = (heading: string): number => rows.reduce((sum, row) => sum + (row[headings.indexOf(heading)]?.length ?? 0), 0);
    const longest = [...free].sort((a, b) => length(b) - length(a))[0];
    if (longest !== undefined) mapping.text = longest;
  }
  return mapping;
}

/** Requirements from a table; rows without text are left out. */
export function itemsOfTable({ headings, rows }: Table, mapping: ColumnMapping, taken: readonly string[]): RequirementItem[] {
  const cell = (row: readonly string[], field: TableField): string => {
    const heading = mapping[field];
    return heading === undefined ? '' : (row[headings.indexOf(heading)] ?? '').trim();
  };
  const items = rows.flatMap((row) => {
    const text = cell(row, 'text');
    if (text === '') return [];
    const optional = (['id', 'source', 'level'] as const).flatMap((field) => (cell(row, field) === '' ? [] : [[field, cell(row, field)] as const]));
    const verifyBy = /^(test|analysis|inspection|demonstration)/i.exec(cell(row, 'verifyBy'))?.[1]?.toLowerCase();
    return [{ section: cell(row, 'section') || 'Requirements', text, ...Object.fromEntries(optional), ...(verifyBy ? { verifyBy } : {}) }];
  });
  return withIds(items, taken);
}

/** The rows of a table of requirements, headings first. */
export function tableOf(items: readonly RequirementItem[]): string[][] {
  return [
    ['id', 'section', 'text', 'source', 'level', 'verified by', 'relations'],
    ...items.map(({ id, section, text, source = '', level = '', verifyBy = '', relations = [] }) => [
      id,
      section,
      text,
      source,
      level,
      verifyBy,
      relations.map(({ kind, to }) => `${kind} ${to}`).join('; '),
    ]),
  ];
}

/** Comma separated text after RFC 4180. */
export function writeCsvTable(rows: readonly (readonly string[])[]): string {
  return rows.map((row) => `${row.map(csvCell).join(',')}\r\n`).join('');
}
