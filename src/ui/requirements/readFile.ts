import type { SourceFile } from '@/core/documents';
import { decode } from '@/core/exchange';
import { type Brought, guessMapping, readCsvTable, type Table } from '@/core/requirements';

/** A file of requirements, read; or a sentence that says why it was not. `keep` is a document that the project keeps, so that it can go out as it came. */
export type ReadFile = { readonly brought: Brought; readonly keep?: SourceFile } | string;

/** Reads a file of requirements by its kind. Workbooks are read by the server. */
export async function readFile(file: File): Promise<ReadFile> {
  const { name } = file;
  if (/\.(md|markdown|txt)$/i.test(name)) return { brought: { k: 'prose', text: await file.text() } };
  if (/\.(reqif|xml)$/i.test(name)) {
    const text = await file.text();
    return { brought: { k: 'reqif', text }, keep: { path: `requirements/${name.replace(/\.[^.]*$/, '')}.reqif`, text } };
  }
  if (/\.csv$/i.test(name)) return tableOf(name, readCsvTable(await file.text()));
  if (/\.xlsx$/i.test(name)) return tableOf(name, await workbook(file));
  return `${name}: requirements are read from .md, .txt, .csv, .xlsx and .reqif.`;
}

function tableOf(name: string, table: Table | { readonly problem: string }): ReadFile {
  return 'problem' in table ? `${name}: ${table.problem}` : { brought: { k: 'table', table, mapping: rememberedMapping(table) } };
}

async function workbook(file: File): Promise<Table | { problem: string }> {
  const response = await fetch('/api/tables', {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: file,
  }).catch(() => undefined);
  if (!response) return { problem: 'The server does not answer.' };
  const body = decode(await response.text()) as Table | { error: string };
  return 'error' in body ? { problem: body.error } : body;
}

const key = (table: Table): string => `ovrand columns ${table.headings.join('|')}`;

/** The columns as they were chosen for the last table with these headings, else a guess. */
function rememberedMapping(table: Table): ReturnType<typeof guessMapping> {
  const kept = window.localStorage.getItem(key(table));
  return kept ? (JSON.parse(kept) as ReturnType<typeof guessMapping>) : guessMapping(table);
}

/** Keeps which column holds what, for the next table with these headings. */
export function rememberMapping(table: Table, mapping: ReturnType<typeof guessMapping>): void {
  window.localStorage.setItem(key(table), JSON.stringify(mapping));
}
