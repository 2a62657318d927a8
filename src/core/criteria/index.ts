export { compileCriterion } from './compile';
export { judge } from './judge';
export type { Signals } from './scan';
export type { Criterion, Judgement, Margin, Obligation, Outcome, Pattern, Verdict } from './types';
export { isSentenceWord } from './words';
