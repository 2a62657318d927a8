import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { SourceFile } from '@/core/documents';

/** Writes the document of a case into a project's folder. @param places those that are taken; its own is added */
export async function writeCase(folder: string, { path: place, text }: SourceFile, places: string[]): Promise<void> {
  places.push(place);
  await mkdir(path.join(folder, path.dirname(place)), { recursive: true });
  await writeFile(path.join(folder, place), text);
}
