export { type Build, makeBuild } from './build';
export { orderAtStage } from './orderAtStage';
export { unitArchive } from './unitArchive';
