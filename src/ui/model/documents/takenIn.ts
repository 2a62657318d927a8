import { unzipSync } from 'fflate';
import { isBinaryDocument, isDocumentPath, readTakenFrom, type SourceFile, takenFromFile } from '@/core/documents';
import { importedUnit } from '@/core/fmi';
import type { TakenFrom } from '@/core/shapes';
import { folderOf } from './templates';

export interface TakenIn {
  readonly documents: readonly { readonly path: string; readonly text: string }[];
  /** Names of files that are no documents of a project. */
  readonly refused: readonly string[];
  /** The revision an archive was taken from, where it says so. */
  readonly from: TakenFrom | undefined;
}

/** Largest archive that is unpacked, in bytes, packed and unpacked. */
const largest = 50_000_000;

/**
 * Documents from files of the disk; archives are unpacked, and keep their folders. A co-simulation unit brings a component along.
 * @param present documents that the project has
 */
export async function takeInFiles(files: readonly File[], present: readonly SourceFile[]): Promise<TakenIn> {
  const documents: { path: string; text: string }[] = [];
  const refused: string[] = [];
  let from: TakenFrom | undefined;
  for (const file of files) {
    if (/\.zip$/i.test(file.name)) {
      const unpacked = await unpack(file);
      if (unpacked) documents.push(...unpacked.filter(({ path }) => path !== takenFromFile));
      else refused.push(file.name);
      const stamp = unpacked?.find(({ path }) => path === takenFromFile);
      if (stamp) from = readTakenFrom(stamp.text);
      continue;
    }
    if (/\.fmu$/i.test(file.name)) {
      const unit = importedUnit(file.name, inBase64(new Uint8Array(await file.arrayBuffer())), present);
      if ('problem' in unit) refused.push(`${file.name} (${unit.problem})`);
      else documents.push(...unit.documents);
      continue;
    }
    const text = plain(await file.text());
    const folder = folderOf(file.name, text);
    if (folder) documents.push({ path: `${folder}/${file.name}`, text });
    else refused.push(file.name);
  }
  return { documents, refused, from };
}

async function unpack(file: File): Promise<{ path: string; text: string }[] | undefined> {
  if (file.size > largest) return undefined;
  try {
    let total = 0;
    const entries = unzipSync(new Uint8Array(await file.arrayBuffer()), {
      filter: ({ name, originalSize }) => {
        total += originalSize;
        return documentIn(name) !== undefined && total <= largest;
      },
    });
    const decoder = new TextDecoder();
    return Object.entries(entries).flatMap(([name, bytes]) => {
      const path = documentIn(name);
      return path ? [{ path, text: isBinaryDocument(path) ? inBase64(bytes) : plain(decoder.decode(bytes)) }] : [];
    });
  } catch {
    return undefined;
  }
}

/** The document of a project, or the file that says where it was taken from, that an entry of an archive is, behind any folders around it. */
function documentIn(name: string): string | undefined {
  const parts = name.split('/');
  return [parts.slice(-2).join('/'), parts.slice(-1).join('/')].find((path) => isDocumentPath(path) || path === takenFromFile);
}

/** Piece by piece: a call takes only so many arguments. */
function inBase64(bytes: Uint8Array): string {
  const pieces = [];
  for (let from = 0; from < bytes.length; from += 10_000) pieces.push(String.fromCharCode(...bytes.subarray(from, from + 10_000)));
  return btoa(pieces.join(''));
}

function plain(text: string): string {
  return text.replace(/\r\n?/g, '\n');
}
