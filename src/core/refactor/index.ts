export { definitionAt } from './definition';
export { type Gathered, gatherParts } from './gather';
export { type Renamed, renameAt } from './rename';
