export { compileCriterion } from './compile';
export { judge, verdictOf } from './judge';
export type { Signals } from './scan';
export { parseSentence, printStl } from './sentence';
export type { Criterion, Judgement, Margin, Obligation, Outcome, Pattern, Verdict } from './types';
