export { inspectModel } from './inspect';
export type { ArrowPicture, Face, FacePort, HistoryPicture, Link, ModelView, OutlineItem, Picture, RegionPicture, Slip, StatePicture } from './types';
export { wireEqualNames } from './wiring';
