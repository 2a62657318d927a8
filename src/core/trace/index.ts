export { type Digest, hashTrace } from './hash';
export { readRecording } from './recording';
export { cutOut, resampled } from './resampled';
export { receivedTrace, type SentTrace, sentTrace } from './sent';
export { joinedTraces, shownOf, thinned } from './thinned';
export type { Column, Trace } from './types';
