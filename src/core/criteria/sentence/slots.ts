import { printExpression } from '@/core/language';
import { timeWords } from '@/core/wording';
import { printMeasure } from './measureSentence';
import { parseSentence } from './sentence';
import type { SentenceEvent, SentenceTiming, SentenceTrigger } from './sentenceTypes';

/** One part of a sentence under the word that introduces it. */
export interface SentenceSlot {
  readonly label: string;
  readonly text: string;
  /** What the part means, where its words do not say it all. */
  readonly hint?: string;
}

/** A sentence taken apart for reading: when, while, by when, what. Empty for a text that is no sentence. */
export function sentenceSlots(text: string): SentenceSlot[] {
  const { sentence } = parseSentence(text);
  if (!sentence) return [];
  switch (sentence.k) {
    case 'always':
    case 'never':
      return [{ label: sentence.k, text: printExpression(sentence.holds) }];
    case 'while':
      return [
        { label: 'while', text: printExpression(sentence.during) },
        ...(sentence.seconds === undefined ? [] : [{ label: 'for', text: timeWords(sentence.seconds), hint: 'without a break, before' }]),
        { label: 'holds', text: printExpression(sentence.holds) },
      ];
    case 'when':
      return [
        ...trigger(sentence.event),
        ...(sentence.during ? [{ label: 'while', text: printExpression(sentence.during), hint: 'judged just before' }] : []),
        ...timed(sentence.timing),
        { label: 'then', text: printExpression(sentence.holds) },
        ...released(sentence.timing),
      ];
    case 'measure':
      return [{ label: 'measure', text: printMeasure(sentence.measure, sentence.limit, sentence.scope, eventText) }];
    case 'sequence':
      return [
        ...sentence.events.map((event, index) => ({ label: index === 0 ? 'first' : 'then', text: eventText(event) })),
        ...(sentence.seconds === undefined ? [] : [{ label: 'within', text: timeWords(sentence.seconds), hint: 'all of it' }]),
      ];
  }
}

function trigger(of: SentenceTrigger): SentenceSlot[] {
  if (of.k === 'start') return [{ label: 'when', text: 'start', hint: 'the first instant of a run' }];
  if (of.k !== 'lasts') return [{ label: 'when', text: eventText(of) }];
  return [
    { label: 'if', text: printExpression(of.of) },
    { label: 'for', text: timeWords(of.seconds), hint: 'without a break, before' },
  ];
}

function timed(timing: SentenceTiming): SentenceSlot[] {
  switch (timing.k) {
    case 'at once':
    case 'until':
      return [];
    case 'within':
      return [{ label: 'within', text: timeWords(timing.seconds), hint: 'deadline, inclusive' }];
    case 'for':
      return [{ label: 'for', text: timeWords(timing.seconds), hint: 'without a break' }];
    case 'after':
      return [{ label: 'after', text: timeWords(timing.seconds), hint: 'from then on' }];
    case 'within for':
      return [
        { label: 'within', text: timeWords(timing.seconds), hint: 'begins by then' },
        { label: 'for', text: timeWords(timing.lasting), hint: 'without a break' },
      ];
    case 'between':
      return [{ label: 'between', text: `${timeWords(timing.earliest)} and ${timeWords(timing.seconds)}`, hint: 'not before' }];
  }
}

function released(timing: SentenceTiming): SentenceSlot[] {
  if (timing.k !== 'until') return [];
  return [
    { label: 'until', text: printExpression(timing.release) },
    ...(timing.seconds === undefined ? [] : [{ label: 'within', text: timeWords(timing.seconds), hint: 'it comes by then' }]),
  ];
}

function eventText(event: SentenceEvent): string {
  const of = printExpression(event.of);
  switch (event.k) {
    case 'rises':
    case 'falls':
    case 'changes':
      return `${of} ${event.k}`;
    case 'becomes':
      return `${of} becomes ${printExpression(event.value)}`;
    case 'crosses':
      return `${of} crosses ${printExpression(event.level)} ${event.upward ? 'upward' : 'downward'}`;
    case 'enters':
    case 'leaves':
      return `${event.k} ${of}`;
  }
}
