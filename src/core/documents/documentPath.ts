/** Documents beside the folders. */
export const topDocuments = ['project.yaml', 'definitions.yaml', 'words.yaml', 'coverage.yaml'] as const;
export type TopDocument = (typeof topDocuments)[number];

/** Folders of a project, with the kinds of files in them. */
export const documentFolders = {
  requirements: /\.(ya?ml|reqif)$/i,
  components: /\.(ya?ml|st|scxml)$/i,
  loops: /\.ya?ml$/i,
  pairings: /\.ya?ml$/i,
  cases: /\.ya?ml$/i,
  campaigns: /\.ya?ml$/i,
  parameters: /\.ya?ml$/i,
  recordings: /\.csv$/i,
  units: /\.fmu$/i,
  benches: /\.ya?ml$/i,
  desks: /\.ya?ml$/i,
  scenes: /\.(ya?ml|svg)$/i,
  pictures: /\.svg$/i,
} as const satisfies Readonly<Record<string, RegExp>>;
export type DocumentFolder = keyof typeof documentFolders;

/** Whether a document of a project may stand at a path. */
export function isDocumentPath(path: string): boolean {
  const [folder = '', name = '', ...deeper] = path.split('/');
  return isTopDocument(path) || (isDocumentFolder(folder) && deeper.length === 0 && !name.includes('\\') && documentFolders[folder].test(name));
}

/** Documents that are no text: what stands for it in a project is their bytes in base64. */
export function isBinaryDocument(path: string): boolean {
  return /^units\//.test(path);
}

export function isTopDocument(path: string): path is TopDocument {
  return topDocuments.some((one) => one === path);
}

export function isDocumentFolder(name: string): name is DocumentFolder {
  return Object.hasOwn(documentFolders, name);
}
