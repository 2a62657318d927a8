export { hiddenCondition, judge } from './judge/judge';
export { risings } from './judge/risings';
export { compileAlone, type SentenceCheck } from './meaning/alone';
export { compileCriterion } from './meaning/compile';
export { criterionSlots } from './meaning/slotsOf';
export { namesInSentence } from './sentence/namesIn';
export { normalForm, normalSentence } from './sentence/normal';
export { paraphrase, paraphraseText } from './sentence/paraphrase';
export { parseSentence, printStl } from './sentence/sentence';
export { sentenceSlots } from './sentence/slots';
export { isSentenceWord } from './sentence/words';
export { leastOf } from './truth/least';
export { isRate } from './truth/rates';
export { type Signals, scan, signalsOf } from './truth/scan';
export { negated, type Stretch, stretches } from './truth/timeline';
export {
  type Atom,
  type Condition,
  type Criterion,
  type Event as CriterionEvent,
  type Judgement,
  type Margin,
  type Obligation,
  type Outcome,
  outcomes,
  type Trigger,
  type Verdict,
  verdicts,
} from './types';
