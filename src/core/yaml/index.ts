export { blocksOf } from './blocks';
export { changeDocument, type DocumentChange } from './change';
export { parsedYaml } from './depth';
export { appendToList, replaceScalar } from './edit';
export { loneText } from './lone';
export { nodeAtPath, type Path } from './nodes';
export { readText } from './text';
export { type ReadDocument, readYaml } from './yaml';
