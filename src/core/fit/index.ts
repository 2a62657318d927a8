export { fittedSet } from './adopt';
export { type FitResult, fitParameters } from './fit';
export type { FitParameter } from './types';
