export { type BenchRecord, type BenchTiming, lateClasses } from './benchRecord';
export type { CaseView, CriterionTriggers, StimulusCourse, TriggeredByCases } from './caseView';
export { contentHash, evidenceFingerprint, planFingerprint, resultFingerprint } from './fingerprint';
export type { BreakingAttempt, CampaignClaim, ChangedSince, Ledger, LedgerRow } from './ledger';
export type { CampaignProgress } from './progress';
export { type CriterionState, type Finding, type RequirementFacts, type RequirementResult, rollUp, unseenReason } from './rollup';
export type { BackToBack, Parting, RunDetail, RunObligation } from './runDetail';
export { type AtStage, acrossStages, reasonWords } from './stages';
export { causeOfAge, changedSinceRuns, Today, withOutOfDate } from './today';
