export { sureFrom } from './confidence';
export { numberValues, separatorsOf } from './numbers';
export { Reader } from './read';
export { termsOf } from './terms';
export { tokensOf } from './tokens';
export type { NotRead, Proposal, Reading, Remark, Term } from './types';
