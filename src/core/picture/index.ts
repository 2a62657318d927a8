export { inspectModel } from './inspect';
export type { ArrowPicture, Face, FacePort, HistoryPicture, ModelView, OutlineItem, Picture, RegionPicture, Slip, StatePicture } from './types';
export { wireEqualNames } from './wiring';
