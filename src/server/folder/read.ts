import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { documentFolders, isBinaryDocument, readTakenFrom, type SourceFile, takenFromFile, topDocuments } from '@/core/documents';
import type { Fault } from '@/core/fault';
import type { TakenFrom } from '@/core/shapes';
import { type UnreadFile, unreadFiles } from './unread';

/** Files beyond this are not even loaded; the reader of documents has a finer limit of its own. */
const largestFile = 16_000_000;

/** What a project folder holds. */
export interface ProjectFolder {
  /** Its documents, paths with forward slashes relative to it. */
  readonly files: SourceFile[];
  /** What cannot be read. */
  readonly faults: Fault[];
  readonly unread: UnreadFile[];
  /** The revision it was taken from, where it says so. */
  readonly from: TakenFrom | undefined;
}

/** Reads a project folder. */
export async function readFolder(directory: string): Promise<ProjectFolder> {
  const files: SourceFile[] = [];
  const faults: Fault[] = [];
  const names: string[] = [...topDocuments];
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
        fix: 'Split the document, or keep recorded data in CSV files.',
      });
      continue;
    }
    const bytes = await readFile(full);
    if (isBinaryDocument(name)) {
      files.push({ path: name, text: bytes.toString('base64') });
      continue;
    }
    try {
      files.push({ path: name, text: new TextDecoder('utf-8', { fatal: true }).decode(bytes).replace(/\r\n?/g, '\n') });
    } catch {
      faults.push({
        code: 'file-unreadable',
        place: { file: name, line: 1, column: 1 },
        message: 'The file is not UTF-8 text.',
        fix: 'Save it as UTF-8.',
      });
    }
  }
  return { files, faults, unread: await unreadFiles(directory), from: await takenFrom(directory, faults) };
}

async function takenFrom(directory: string, faults: Fault[]): Promise<TakenFrom | undefined> {
  const text = await readFile(path.join(directory, takenFromFile), 'utf8').catch(() => undefined);
  const from = text === undefined ? undefined : readTakenFrom(text);
  if (text !== undefined && !from)
    faults.push({
      code: 'file-unreadable',
      place: { file: takenFromFile, line: 1, column: 1 },
      message: 'The file does not say which revision the folder was taken from.',
      fix: 'Take it from a fresh archive of the project, or delete it.',
    });
  return from;
}
