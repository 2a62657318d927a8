export { type Build, makeBuild } from './build';
export { allAtStage, atStage, orderAtStage } from './orderAtStage';
export { unitArchive } from './unitArchive';
