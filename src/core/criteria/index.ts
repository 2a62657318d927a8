export { InRun } from './judge/inRun';
export { hiddenCondition, judge, judgementOf } from './judge/judge';
export { risings } from './judge/risings';
export { compileAlone, type SentenceCheck } from './meaning/alone';
export { compileCriterion } from './meaning/compile';
export { PartCompiler } from './meaning/parts';
export { criterionSlots } from './meaning/slotsOf';
export { namesInSentence } from './sentence/namesIn';
export { normalForm, normalSentence } from './sentence/normal';
export { eventWords, paraphrase, paraphraseText } from './sentence/paraphrase';
export { parseSentence, printStl } from './sentence/sentence';
export type { SentenceEvent, SentenceTrigger } from './sentence/sentenceTypes';
export { sentenceSlots } from './sentence/slots';
export { isSentenceWord } from './sentence/words';
export { leastOf } from './truth/least';
export { isRate } from './truth/rates';
export { type Signals, scan, signalsOf } from './truth/scan';
export { combined, firstIn, negated, type Stretch, stretches, type Timeline, truthAfter, truthAt, truthBefore } from './truth/timeline';
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
