export { fittedSet } from './adopt';
export { type FitParameter, type FitQuestion, type FitResult, type FoundParameter, fitParameters, type SignalFit } from './fit';
