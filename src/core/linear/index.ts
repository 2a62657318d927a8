export { discretised, systemOf, type TransferFunction, transferFunctionOf } from './discretise';
export { type LinearSystem, linearise } from './linearise';
export { type Margins, marginsOf } from './margins';
export { ContinuousPart, type Drive, type Seen } from './part';
export { type Pole, polesOf, stabilityOf } from './poles';
export { type FrequencyPoint, frequencyResponse, stepResponse } from './response';
export { type Steady, steadyState } from './steady';
export { type LinearAnswer, type LinearQuestion, linearView } from './view';
