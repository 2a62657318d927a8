export { checkShape } from './check';
export { appendToList, replaceScalar } from './edit';
export { fileNameOf } from './fileName';
export { loneText } from './lone';
export { nodeAtPath, type Path } from './nodes';
export {
  caseShape,
  componentShape,
  controlForms,
  definitionsShape,
  deskShape,
  displayForms,
  loopShape,
  parameterSetShape,
  projectShape,
  requirementsShape,
  sceneShape,
  textNoteShape,
  wordsShape,
} from './shapes';
export { type Picture, readPicture } from './svg';
export { readTakenFrom, type TakenFrom, takenFromFile, writeTakenFrom } from './takenFrom';
export { readText } from './text';
export { attribute, elementsOf, parseXml, placeOf, tag, words } from './xml';
export { type ReadDocument, readYaml } from './yaml';
