export { inspectModel } from './inspect';
export { type Lens, lensOf, type Seen, type SeenLine, type Share } from './lens';
export type { ArrowPicture, Face, FacePort, HistoryPicture, ModelView, OutlineItem, Picture, RegionPicture, Slip, StatePicture } from './types';
export { wireEqualNames } from './wiring';
