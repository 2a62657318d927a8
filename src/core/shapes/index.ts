export { type Allowed, allowedAt } from './allowedAt';
export type { RawDecisionTable, RawEquations, RawNetwork, RawPart, RawRecording, RawRoutine, RawUnit, RawUse } from './behaviour';
export { type BusState, benchShape, busStates, channelFaultShape, mostLate, type RawBench, type RawChannel, type RawChannelFault } from './bench';
export { campaignShape, type RawCampaign, type RawSpread } from './campaign';
export { caseShape, type DeskStep, type RawCase, type RawFault, type RawPiece, type RawStep, type WrittenCase } from './case';
export type { RawChart, RawHistory, RawMessage, RawRegion, RawState, RawTargets, RawTransition } from './chart';
export { checkShape, shaped } from './check';
export { componentShape, type RawComponent, type RawParameter, type TypedPort } from './component';
export {
  type ControlForm,
  type DeskButton,
  type DeskItem,
  type DisplayForm,
  deskShape,
  type RawDesk,
  type RawScene,
  type SceneMove,
  sceneShape,
} from './desk';
export { loopShape, ownSolverShape, type RawLoop, type RawOwnSolver } from './loop';
export { pairingShape, type RawPairing } from './pairing';
export { type RawPort, type TextNote, type Tuning, textNoteShape } from './port';
export {
  type CoverageKind,
  coverageKinds,
  coverageShape,
  definitionsShape,
  type IntegrityLevel,
  integrityLevels,
  manyRunStages,
  parameterSetShape,
  projectShape,
  type RawController,
  type RawDefinitions,
  type RawJustification,
  type RawParameterSet,
  type RawProject,
  type RawWords,
  type Stage,
  stages,
  type TakenFrom,
  takenFromShape,
  wordsShape,
} from './project';
export { type RawCriterion, type RawRequirement, type RawRequirements, requirementsShape } from './requirements';
export { byKey, listOf, object, oneOf, required, type Shape } from './shape';
export { type Named, type Scalar, typeName } from './values';
