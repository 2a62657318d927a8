export { type Build, type BuildRecord, makeBuild } from './build';
export { orderAtStage } from './orderAtStage';
export type { CompilerWarning } from './warnings';
