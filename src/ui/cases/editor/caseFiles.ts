import type { SourceFile } from '@/core/documents';

/** A case document as the list shows it. */
export interface CaseFile {
  readonly path: string;
  readonly name: string;
}

/** Case documents as they are now, by the names they have in their texts. */
export function caseFiles(files: readonly SourceFile[]): CaseFile[] {
  return files.filter(({ path }) => /^cases\/[^/]+\.ya?ml$/i.test(path)).map(({ path, text }) => ({ path, name: nameIn(text, 'case') ?? path }));
}

function nameIn(text: string, key: string): string | undefined {
  return new RegExp(`^${key}:\\s*["']?(.+?)["']?\\s*$`, 'm').exec(text)?.[1];
}

/** A name that no case has, made of a wanted one, and a path for it. */
export function freeName(files: readonly SourceFile[], wanted: string): CaseFile {
  const names = new Set(caseFiles(files).map((one) => one.name.toLowerCase()));
  const paths = new Set(files.map((one) => one.path.toLowerCase()));
  for (let number = 1; ; number += 1) {
    const name = number === 1 ? wanted : `${wanted} ${number}`;
    const word = name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '');
    const path = `cases/${word || 'case'}.yaml`;
    if (!names.has(name.toLowerCase()) && !paths.has(path)) return { name, path };
  }
}

/** A case that does nothing yet, on the first loop. */
export function newCase(files: readonly SourceFile[], wanted = 'New case'): CaseFile & { readonly text: string } {
  const loop = files.map(({ path, text }) => (path.startsWith('loops/') ? nameIn(text, 'loop') : undefined)).find((one) => one !== undefined);
  const { name, path } = freeName(files, wanted);
  return { name, path, text: `case: ${name}\nloop: ${loop ?? 'loop'}\nstimuli: {}\n` };
}

/** A case of its own with the same text, or one that takes everything over from the other. */
export function copyOf(files: readonly SourceFile[], of: CaseFile, how: 'copy' | 'like'): CaseFile & { readonly text: string } {
  const { name, path } = freeName(files, how === 'copy' ? `${of.name} (copy)` : `Like ${of.name}`);
  const text = files.find((one) => one.path === of.path)?.text ?? '';
  return { name, path, text: how === 'like' ? `case: ${name}\nlike: ${of.name}\n` : text.replace(/^case:.*$/m, () => `case: ${name}`) };
}
