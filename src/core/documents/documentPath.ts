/** Documents beside the folders. */
export const topDocuments: readonly string[] = ['project.yaml', 'definitions.yaml', 'words.yaml'];

/** Folders of a project, with the kinds of files in them. */
export const documentFolders: Readonly<Record<string, RegExp>> = {
  requirements: /\.(ya?ml|reqif)$/i,
  components: /\.(ya?ml|st|scxml)$/i,
  loops: /\.ya?ml$/i,
  cases: /\.ya?ml$/i,
  parameters: /\.ya?ml$/i,
  recordings: /\.csv$/i,
  desks: /\.ya?ml$/i,
  scenes: /\.(ya?ml|svg)$/i,
  pictures: /\.svg$/i,
};

/** Whether a document of a project may stand at a path. */
export function isDocumentPath(path: string): boolean {
  const [folder = '', name = '', ...deeper] = path.split('/');
  if (topDocuments.includes(path)) return true;
  return Object.hasOwn(documentFolders, folder) && deeper.length === 0 && !name.includes('\\') && (documentFolders[folder]?.test(name) ?? false);
}
