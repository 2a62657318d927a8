import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { documentFolders, type Fault, type SourceFile, topDocuments } from '@/core';

/** Files beyond this are not even loaded; the reader of documents has a finer limit of its own. */
const largestFile = 16_000_000;

/** The text files of a project folder, paths with forward slashes relative to it; what cannot be read is told as faults. */
export async function readFolder(directory: string): Promise<{ files: SourceFile[]; faults: Fault[] }> {
  const files: SourceFile[] = [];
  const faults: Fault[] = [];
  const names = [...topDocuments];
  for (const [folder, kinds] of Object.entries(documentFolders)) {
    const entries = await readdir(path.join(directory, folder), { withFileTypes: true }).catch(() => []);
    names.push(
      ...entries
        .filter((entry) => entry.isFile() && kinds.test(entry.name))
        .map((entry) => `${folder}/${entry.name}`)
        .sort(),
    );
  }
  for (const name of names) {
    const full = path.join(directory, name);
    const size = await stat(full).then(
      (info) => info.size,
      () => undefined,
    );
    if (size === undefined) continue;
    if (size > largestFile) {
      faults.push({
        code: 'file-too-large',
        place: { file: name, line: 1, column: 1 },
        message: `The file has ${size} bytes; at most ${largestFile} are read.`,
        mend: 'Split the document, or keep recorded data in CSV files.',
      });
      continue;
    }
    const bytes = await readFile(full);
    try {
      files.push({ path: name, text: new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/\r\n?/g, '\n') });
    } catch {
      faults.push({
        code: 'file-unreadable',
        place: { file: name, line: 1, column: 1 },
        message: 'The file is not UTF-8 text.',
        mend: 'Save it as UTF-8.',
      });
    }
  }
  return { files, faults };
}
