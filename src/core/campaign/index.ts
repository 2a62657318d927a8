export { type CriterionOverRuns, type FoundRun, type Influence, sumUp } from './found';
export { type Seeds, type SweptRun, sweptRuns, variantName } from './sweep';
export { levelWords, pointWords, sentenceOver } from './words';
