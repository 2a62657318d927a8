import { type Expression, printExpression } from '@/core/language';
import { timeWords } from '@/core/wording';
import type { MeasureScope } from '../types';
import { parseSentence } from './sentence';
import type { Sentence, SentenceEvent, SentenceMeasure, SentenceTiming, SentenceTrigger } from './sentenceTypes';

/** A sentence said back in plain words, so that one hears what one has written: when it is owed, what, by when, and what counts. */
export function paraphrase(sentence: Sentence): string {
  switch (sentence.k) {
    case 'always':
      return `At every instant ${said(sentence.holds)}.`;
    case 'never':
      return `There is no instant at which ${said(sentence.holds)}.`;
    case 'while':
      if (sentence.seconds !== undefined)
        return `Once ${said(sentence.during)} has lasted ${timeWords(sentence.seconds)}, and for as long as it goes on, ${said(sentence.holds)}. Where it never lasts so long, nothing is owed and nothing is shown.`;
      return `For as long as ${said(sentence.during)}, ${said(sentence.holds)}. Where that never comes about, nothing is owed and nothing is shown.`;
    case 'when': {
      const during = sentence.during ? `, if just before it ${said(sentence.during)}` : '';
      if (sentence.event.k === 'start') return `From the first instant of a run: ${owed(sentence.timing, said(sentence.holds))}.`;
      return `Each time ${triggered(sentence.event)}${during}: ${owed(sentence.timing, said(sentence.holds))}.`;
    }
    case 'measure':
      return `${measured(sentence.measure)} is ${compare[sentence.limit.operator]} ${printExpression(sentence.limit.value)}${scoped(sentence.scope)}.`;
    case 'sequence': {
      const [first, ...later] = sentence.events.map(eventWords);
      const within = sentence.seconds === undefined ? '' : `, all within ${timeWords(sentence.seconds)}`;
      return `Each time ${first}: next ${later.join(', and after it ')}${within}; none of them earlier.`;
    }
  }
}

/** The same from a sentence's text; empty for a text that is no sentence. */
export function paraphraseText(text: string): string {
  const { sentence } = parseSentence(text);
  return sentence ? paraphrase(sentence) : '';
}

function measured(measure: SentenceMeasure): string {
  switch (measure.k) {
    case 'step': {
      const [y, r] = [printExpression(measure.of), printExpression(measure.to)];
      const at = `At each step of ${r}`;
      // biome-ignore lint/nursery/useExhaustiveSwitchCases: a measure of steps has no other kind
      switch (measure.kind) {
        case 'overshoot':
          return `${at}, the most by which ${y} goes beyond it, as a share of the step,`;
        case 'rise time':
          return `${at}, the time in which ${y} goes from 10 % to 90 % of the step`;
        case 'settling':
          return `${at}, the time after which ${y} stays within ${measure.band ? printExpression(measure.band) : '2 %'} of it for good`;
        case 'steady error':
          return `${at}, the largest distance of ${y} from it in the last tenth of the time it lasts`;
      }
      break;
    }
    case 'whole':
      return `Over a whole run, the ${{ peak: 'greatest value', rms: 'root mean square', mean: 'mean' }[measure.kind]} of ${printExpression(measure.of)}`;
    case 'duration':
      return `Over a whole run, the sum of the times during which ${said(measure.of)}`;
    case 'longest':
      return `Each time that ${said(measure.of)}, the time it lasts`;
    case 'count':
      return measure.seconds === undefined
        ? `Over a whole run, the number of times that ${eventWords(measure.of)}`
        : `In any stretch of ${timeWords(measure.seconds)}, the number of times that ${eventWords(measure.of)}`;
    case 'time':
      return `Each time ${eventWords(measure.from)}, the time until next ${eventWords(measure.to)}`;
    case 'distance':
      return `Each time ${eventWords(measure.from)}, the time before next ${eventWords(measure.to)}`;
  }
}

function scoped({ during, after }: MeasureScope<Expression>): string {
  const parts = [
    ...(during ? [`only while ${said(during)}`] : []),
    ...(after === undefined ? [] : [`the first ${timeWords(after)} of the run left out`]),
  ];
  return parts.length === 0 ? '' : `, ${parts.join(', ')}`;
}

function owed(timing: SentenceTiming, holds: string): string {
  switch (timing.k) {
    case 'at once':
      return `${holds} at that instant`;
    case 'within':
      return `${holds} no later than ${timeWords(timing.seconds)} after it, once is enough`;
    case 'for':
      return `${holds} from then on for ${timeWords(timing.seconds)} without a break`;
    case 'after':
      return `${holds} from ${timeWords(timing.seconds)} after it to the end`;
    case 'within for':
      return `no later than ${timeWords(timing.seconds)} after it begins a stretch of ${timeWords(timing.lasting)} in which ${holds}`;
    case 'between':
      return `${holds} for the first time between ${timeWords(timing.earliest)} and ${timeWords(timing.seconds)} after it, not before`;
    case 'until':
      return `${holds} up to the instant at which ${said(timing.release)}${
        timing.seconds === undefined ? ', or the end of the run' : `, which comes no later than ${timeWords(timing.seconds)} after it`
      }`;
  }
}

function triggered(of: Exclude<SentenceTrigger, { k: 'start' }>): string {
  return of.k === 'lasts' ? `it has been so for ${timeWords(of.seconds)} that ${said(of.of)}` : eventWords(of);
}

/** An event in words. */
export function eventWords(event: SentenceEvent): string {
  switch (event.k) {
    case 'rises':
      return `it begins that ${said(event.of)}`;
    case 'falls':
      return `it ends that ${said(event.of)}`;
    case 'becomes':
      return `${printExpression(event.of)} becomes ${printExpression(event.value)}`;
    case 'changes':
      return `${printExpression(event.of)} changes`;
    case 'crosses':
      return `${printExpression(event.of)} comes ${event.upward ? 'up' : 'down'} to ${printExpression(event.level)}`;
    case 'enters':
      return `${printExpression(event.of)} is entered`;
    case 'leaves':
      return `${printExpression(event.of)} is left`;
  }
}

/** A condition in words; what is deeper than AND and OR stays as it is written. */
function said(of: Expression): string {
  if (of.kind === 'name') return `${of.path.join('.')} holds`;
  if (of.kind === 'unary' && of.operator === 'NOT')
    return of.operand.kind === 'name' ? `${of.operand.path.join('.')} does not hold` : `it is not the case that ${said(of.operand)}`;
  if (of.kind === 'between') return `${printExpression(of.operand)} lies in ${printExpression(of.low)} … ${printExpression(of.high)}, ends included`;
  if (of.kind === 'rate') return `the rate of ${printExpression(of.operand)}`;
  if (of.kind === 'near') return `${printExpression(of.operand)} is ${printExpression(of.target)}, give or take ${printExpression(of.tolerance)}`;
  if (of.kind !== 'binary') return printExpression(of);
  const [left, right] = [of.left, of.right];
  if (of.operator === 'AND') return `${said(left)} and ${said(right)}`;
  if (of.operator === 'OR') return `${said(left)} or ${said(right)}`;
  const compared = compare[of.operator];
  return compared ? `${printExpression(left)} is ${compared} ${printExpression(right)}` : printExpression(of);
}

const compare: Readonly<Record<string, string>> = {
  '<': 'below',
  '<=': 'at most',
  '>': 'above',
  '>=': 'at least',
  '=': 'equal to',
  '<>': 'other than',
};
