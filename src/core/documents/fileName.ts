/** A file's name, without its ending, for a document that is called so. */
export function fileNameOf(name: string): string {
  return name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
}
