export { type Build, makeBuild } from './build';
export { allAtStage, atStage, built, orderAtStage, programOf } from './orderAtStage';
export { unitArchive } from './unitArchive';
