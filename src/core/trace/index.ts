export { type Digest, hashTrace } from './hash';
export type { Between, Column, Marks, Trace } from './types';
export { readRecording } from './recording';
