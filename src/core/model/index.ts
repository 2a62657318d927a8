export { aloneLoop } from './alone';
export { Catalogue, type CatalogueEntry, type Role } from './catalogue';
export { checkComponents } from './components';
export { checkConstraints } from './constraints';
export { elementNames } from './elements';
export { type Formula, Formula as FormulaText } from './formula';
export { type AssembledLoop, assembleLoop } from './loop';
export {
  type CaseDocument,
  type ComponentDocument,
  type LoopDocument,
  type ParameterSetDocument,
  type Project,
  type RequirementDocument,
  readProject,
  type SourceFile,
} from './project';
export type {
  RawBreakpoint,
  RawCase,
  RawChart,
  RawComponent,
  RawCriterion,
  RawNetwork,
  RawPart,
  RawPort,
  RawRegion,
  RawRequirement,
  RawState,
  RawStep,
  RawTargets,
  RawTransition,
  Scalar,
} from './raw';
export { messageName, type ReadScxml, readScxml } from './scxml';
export { type Found, type Scope, typeExpression } from './typing';
export { readTime, readValue } from './values';
