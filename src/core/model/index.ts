export { aloneLoop } from './alone';
export { Catalogue, type CatalogueEntry, type Role } from './catalogue';
export { type ComponentPicture, pictureOfComponent } from './componentPicture';
export { checkComponents } from './components';
export { conditionNode } from './condition';
export { checkConstraints } from './constraints';
export { documentFolders, isDocumentPath, topDocuments } from './documentPath';
export { elementNames, elements } from './elements';
export { type Formula, Formula as FormulaText } from './formula';
export { type AssembledLoop, assembleLoop } from './loop';
export { parameterSetFile } from './parameterSet';
export {
  type CaseDocument,
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
export type {
  ControlForm,
  DeskButton,
  DeskItem,
  DeskStep,
  DisplayForm,
  RawBreakpoint,
  RawCase,
  RawChart,
  RawComponent,
  RawCriterion,
  RawDesk,
  RawLoop,
  RawNetwork,
  RawPart,
  RawPort,
  RawRegion,
  RawRequirement,
  RawScene,
  RawState,
  RawStep,
  RawTargets,
  RawTransition,
  RawUse,
  Scalar,
  SceneMove,
} from './raw';
export { messageName, type ReadScxml, readScxml } from './scxml';
export { type Found, type Scope, typeExpression } from './typing';
export { readTime, readValue } from './values';
