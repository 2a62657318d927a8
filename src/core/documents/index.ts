export { type ComponentPicture, checkPicture, pictureOfComponent } from './componentPicture';
export { documentFolders, isBinaryDocument, isDocumentPath, topDocuments } from './documentPath';
export { fileNameOf } from './fileName';
export type { CaseDocument } from './likeCases';
export { parameterSetFile } from './parameterSet';
export type { BenchDocument, CampaignDocument } from './project';
export {
  type ComponentDocument,
  type DeskDocument,
  type LoopDocument,
  type ParameterSetDocument,
  type Project,
  type RequirementDocument,
  readProject,
  readProjectInSteps,
  type SceneDocument,
  type SourceFile,
} from './project';
export { messageName, readScxml } from './scxml';
export { readTakenFrom, takenFromFile, writeTakenFrom } from './takenFrom';
