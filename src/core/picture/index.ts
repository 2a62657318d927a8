export { inspectModel } from './inspect';
export type { ArrowPicture, Face, FacePort, Link, ModelView, OutlineItem, Picture, RegionPicture, Slip, StatePicture } from './types';
export { wireEqualNames } from './wiring';
