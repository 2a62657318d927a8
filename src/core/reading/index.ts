export { sureFrom } from './confidence';
export { numberValues, separatorsOf } from './prose/numbers';
export { tokensOf } from './prose/tokens';
export { Reader } from './read';
export { termsOf } from './terms';
export type { NotRead, Proposal, Reading, Remark, Term } from './types';
