export { fittedSet } from './adopt';
export { type FitResult, type FoundParameter, fitParameters, type SignalFit } from './fit';
export type { FitParameter, FitQuestion } from './types';
