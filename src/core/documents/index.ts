export { type ComponentPicture, checkPicture, pictureOfComponent } from './componentPicture';
export { documentFolders, isBinaryDocument, isDocumentPath, topDocuments } from './documentPath';
export { fileNameOf } from './fileName';
export type { CaseDocument } from './likeCases';
export { type PairedParts, pairedParts } from './pairing';
export { parameterSetFile } from './parameterSet';
export { type Project, readProject, readProjectInSteps } from './project';
export { messageName, readScxml } from './scxml';
export { suggestionsAt } from './suggestions';
export { readTakenFrom, takenFromFile, writeTakenFrom } from './takenFrom';
export type {
  BenchDocument,
  CampaignDocument,
  ComponentDocument,
  DeskDocument,
  LoopDocument,
  PairingDocument,
  ParameterSetDocument,
  RequirementDocument,
  SceneDocument,
  SourceFile,
} from './types';
