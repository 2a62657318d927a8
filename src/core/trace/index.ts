export { type Digest, hashTrace } from './hash';
export { readRecording } from './recording';
export type { Between, Column, Marks, Trace } from './types';
export { windowOf } from './window';
