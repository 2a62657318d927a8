export { type Build, makeBuild } from './build';
export { buildFiles, buildLoop, keepBuild, readBuilds } from './keep';
export { orderAtStage } from './orderAtStage';
export { unitArchive } from './unitArchive';
