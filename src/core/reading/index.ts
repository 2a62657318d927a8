export { sureFrom } from './confidence';
export { Reader } from './read';
export { termsOf } from './terms';
export type { HouseWords, NotRead, Proposal, Reading, ReadWord, Remark, Term, Unplaced } from './types';
