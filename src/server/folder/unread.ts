import { readdir } from 'node:fs/promises';
import path from 'node:path';
import { documentFolders, isDocumentPath, takenFromFile } from '@/core/documents';
import { nearestName } from '@/core/language';

/** A file that looks like a document of a project and is none, and why. */
export interface UnreadFile {
  readonly path: string;
  readonly why: string;
}

/** Files that end so are meant for us. */
const ours = /\.(?:ya?ml|st|scxml|reqif)$/i;

/** Folders are looked into so deep; what lies deeper is no project's. */
const deepest = 3;

/** Files of a project folder that look like documents and that nobody reads: in a folder of another name, too deep, or of the wrong kind. */
export async function unreadFiles(directory: string): Promise<UnreadFile[]> {
  const found: UnreadFile[] = [];
  for (const file of await filesBelow(directory, '', deepest)) {
    if (ours.test(file) && !isDocumentPath(file) && file !== takenFromFile) found.push({ path: file, why: reason(file) });
  }
  return found;
}

async function filesBelow(directory: string, below: string, depth: number): Promise<string[]> {
  const entries = await readdir(path.join(directory, below), { withFileTypes: true }).catch(() => []);
  const lists = entries
    .filter((entry) => !entry.name.startsWith('.') && entry.name !== 'node_modules')
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .map(async (entry) => {
      const at = below === '' ? entry.name : `${below}/${entry.name}`;
      if (entry.isDirectory()) return depth > 0 ? filesBelow(directory, at, depth - 1) : [];
      return entry.isFile() ? [at] : [];
    });
  return (await Promise.all(lists)).flat();
}

function reason(file: string): string {
  const [folder = '', ...deeper] = file.split('/');
  const known = Object.keys(documentFolders);
  if (deeper.length === 0)
    return `beside project.yaml only definitions.yaml, words.yaml and coverage.yaml are read; documents stand in ${known.join(', ')}`;
  if (!Object.hasOwn(documentFolders, folder)) {
    const near = nearestName(folder, known);
    return `no folder "${folder}" is read${near ? `; did you mean "${near}"?` : `, only ${known.join(', ')}`}`;
  }
  return deeper.length > 1 ? `folders inside ${folder}/ are not read` : `this is no kind of file that is read in ${folder}/`;
}
