export { type Attempted, groundOf } from './attempts';
export { againstModel, asBenchRun, type BenchController, type BenchOrder, brokenIn, standingAttempt } from './bench/benchRun';
export { type BenchView, benchViews, casesByLoop, type ProposedBench, proposedBenches, type SheetChannel } from './bench/benchView';
export { handleNamed, type LiveHandle, type LiveOrder, liveOrder } from './bench/liveOrder';
export type { BenchMoment, CheckedChannel, LiveStatus } from './bench/liveStatus';
export { type DecidedRun, leaveOpen } from './bench/pausesDecide';
export { type LiveShadow, type RecordedProcess, recordedProcess, shadowOrder } from './bench/shadowOrder';
export { type BenchInUse, benchOf } from './bench/sheets';
export { isForBench, stagesOf, watchedAt } from './bench/stagesOf';
export type { CheckedCampaign, StopRule } from './campaigns';
export { type ChartStep, chartConfigurations } from './chart';
export {
  type BoundCriterion,
  type CaseChanges,
  type CheckedProject,
  caseOnVariant,
  caseSaying,
  changedCase,
  checkProject,
  checkProjectInSteps,
  rawChanges,
} from './check';
export type { CheckedCase } from './checkedCase';
export type { BuildView } from './code/buildView';
export { asCodeRun, type CodeOrder, orderCodeRun, performCodeRun } from './code/codeRun';
export { plannedBuild } from './code/controller';
export { type ControllerFace, controllerFace } from './code/controllerFace';
export { type CaseCoverage, caseCoverage } from './coverage/caseCoverage';
export { goalMark, type JudgedGaps, judgeGaps, judgeGoals, logicMark, withJustification } from './coverage/justified';
export { type DeskChoice, type DeskCriterion, type DeskInUse, type OpenedDesk, type OpenedScene, openDesk } from './desk';
export { type EditedCase, type EditedInput, editedCase, type Nameable, type TriggeredBy, triggeredBy } from './editing/caseEditing';
export { type DrawnCase, drawnCase, drawnRun } from './editing/drawnCase';
export { figuresOf, type MeasuredFigure, type WantedFigure } from './figures';
export { type FindableName, type FindableNames, findableNames } from './findable';
export { discountOf, findingsOf, requirementFacts, todayOf } from './findings';
export { bindMeasure, type Measured } from './measures';
export { judgeRecording, type RecordedFindings } from './overRecording';
export { type PairEnd, type PairProposal, type PairRow, pairingDocument, pairingOf, proposePairs } from './pairing/proposal';
export { type PairingOffer, type PairingView, pairingOffers, pairingViews } from './pairing/view';
export { criterionInCase } from './received';
export { restsOn, restsOnLoop } from './restsOn';
export {
  type CriterionResult,
  type ExpectedOfCase,
  judgeOutcome,
  ofCase,
  orderRun,
  performRun,
  type RunOrder,
  type RunResult,
  resultOf,
  stageOf,
  type UnitToRun,
} from './run';
export { checkToRun, modelFaults, whyNotRun } from './soundModel';
export { componentAsStructuredText } from './text';
