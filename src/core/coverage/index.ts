export { type ConditionItem, Coverage, type CoverageItem, type CoverageReport, type CoveredPart } from './coverage';
export { kindOf, kindsAsked } from './levels';
export { type Combination, Decision, type Shown } from './mcdc';
export { Tally, type TouchedByRuns } from './tally';
export { type Touched, touchedIn, untouched } from './touched';
