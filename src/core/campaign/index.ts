export { type CriterionOverRuns, type FoundRun, type Influence, sumUp } from './found';
export { campaignRuns, type Seeds, type SweptRun, sweptRuns } from './sweep';
export { levelWords, pointWords, sentenceOver } from './words';
