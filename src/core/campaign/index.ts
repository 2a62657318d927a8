export { type EarlyEnd, type LookedAt, lookOn, notLooked } from './ending';
export { type CriterionOverRuns, type Influence, type RunGround, sumUp } from './found';
export { groundOf } from './ground';
export { type LaidCampaign, laidCampaign, laidSweep, type Seeds, type SweptRun } from './laid';
export { type KeptRun, type PackedRuns, RunTable, type WatchedCriterion } from './table';
export { endingWords, levelWords, pointWords, sentenceOver, shortNames } from './words';
