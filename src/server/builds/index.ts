export { type Build, type BuildRecord, makeBuild } from './build';
export type { CompilerWarning } from './warnings';
