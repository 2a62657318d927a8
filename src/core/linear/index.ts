export { discretised, systemOf, type TransferFunction, transferFunctionOf } from './discretise';
export { linearise } from './linearise';
export { type LargestRealPart, largestRealPart } from './loopPoles';
export { marginsOf } from './margins';
export { ContinuousPart } from './part';
export { polesOf, stabilityOf } from './poles';
export { frequencyResponse, stepResponse } from './response';
export { steadyState } from './steady';
export { type LinearAnswer, type LinearQuestion, linearView } from './view';
