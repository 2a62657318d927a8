export { backToBack, usualTolerance } from './backToBack';
export { hostedExperiment } from './hosting';
export { ModelHost } from './modelHost';
export { outsideName, partLoop } from './partLoop';
export { buildSources, type FloatWidth, type NoBuild, type PlannedBuild, planBuild } from './plannedBuild';
export type { BuildRecord, CompilerWarning } from './record';
