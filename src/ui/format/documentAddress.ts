/** Where a document of a project is shown and edited, at a line of it if one is given. */
export function documentAddress(slug: string, path: string, line?: number): string {
  return `/p/${slug}/model?at=${encodeURIComponent(`document:${path}`)}${line === undefined ? '' : `&line=${line}`}`;
}
