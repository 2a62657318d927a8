export { compileCriterion } from './compile';
export { judge } from './judge';
export { normalForm } from './normal';
export type { Signals } from './scan';
export { parseSentence, printStl, type Sentence } from './sentence';
export type { Criterion, Judgement, Margin, Obligation, Outcome, Pattern, Verdict } from './types';
export { isSentenceWord } from './words';
