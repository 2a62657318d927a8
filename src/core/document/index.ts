export { checkShape } from './check';
export { appendToList, replaceScalar } from './edit';
export { nodeAtPath, type Path } from './nodes';
export {
  caseShape,
  componentShape,
  definitionsShape,
  loopShape,
  parameterSetShape,
  projectShape,
  requirementsShape,
  textNoteShape,
  wordsShape,
} from './shapes';
export { readText } from './text';
export { attribute, elementsOf, parseXml, placeOf, tag, words } from './xml';
export { type ReadDocument, readYaml } from './yaml';
