export { backToBack, usualTolerance } from './backToBack';
export { hostedExperiment } from './hosting';
export { Matching } from './matching';
export { ModelHost } from './modelHost';
export { outsideName, partLoop } from './partLoop';
export { buildSources, type FloatWidth, headOf, type NoBuild, type PlannedBuild, planBuild } from './plannedBuild';
export type { BuildRecord, CompilerWarning } from './record';
