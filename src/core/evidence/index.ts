export { contentHash, evidenceFingerprint, resultFingerprint } from './fingerprint';
export { type CriterionState, type Finding, type RequirementFacts, type RequirementResult, type RequirementState, rollUp } from './rollup';
