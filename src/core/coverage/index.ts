export { type ConditionItem, Coverage, type CoverageItem, type CoverageReport } from './coverage';
export { type Combination, Decision, type Shown } from './mcdc';
