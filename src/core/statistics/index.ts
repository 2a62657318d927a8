export { type Correlation, firstOrderIndex, rankCorrelation, ranks } from './influence';
export { quantile, sorted, type Tolerance, toleranceBounds } from './order';
export { exactInterval, type Interval, lowerBound, upperBound } from './proportion';
export { runsForTolerance, runsNeeded } from './runsNeeded';
export {
  anytimeInterval,
  type Claim,
  expectedRuns,
  runsToDecide,
  type SequentialTest,
  type Standing,
  sequentialVerdict,
  standingOf,
} from './sequential';
