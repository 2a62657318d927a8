export { checkShape } from './check';
export { appendToList, replaceScalar } from './edit';
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
export { nodeAtPath, type Path, type ReadDocument, readYaml } from './yaml';
