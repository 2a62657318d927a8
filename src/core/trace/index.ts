export { type Digest, hashTrace } from './hash';
export { noState, readRecording } from './recording';
export { cutOut, resampled } from './resampled';
export { receivedTrace, type SentTrace, sentTrace } from './sent';
export { stateMarks } from './stateMarks';
export { joinedTraces, shownOf, thinned } from './thinned';
export type { Column, Marks, Trace } from './types';
