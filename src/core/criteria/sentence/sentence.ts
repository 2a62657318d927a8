import { type Dialect, describe, type Expression, Parser, printExpression, type TextFault } from '@/core/language';
import { remember } from '@/core/memory';
import { converted, findUnit, unitAdvice } from '@/core/units';
import type { MeasureScope } from '../types';
import { printMeasure, readMeasure } from './measureSentence';
import type { Sentence, SentenceEvent, SentenceTiming, SentenceTrigger } from './sentenceTypes';
import { type FormulaAsSentence, looksLikeStl, NotStl, sentenceOfStl } from './stl';
import { behindNumbers, keywords } from './words';

const dialect: Dialect = {
  stops: keywords,
  after: behindNumbers,
  sentence: true,
  isUnit: (text) => findUnit(text) !== undefined,
  adviseUnit: unitAdvice,
  converted,
};

const shapes =
  'A sentence is: always P · never P · while S, P · while S for 2 s, P · when E, P · when E while S, within 2 s P · when E, for 3 s P · when E, P until Q · if S for 2 s, P · sequence E then E within 5 s · overshoot of y to r <= 5 %, and other measures.';

interface ReadSentence {
  readonly sentence?: Sentence;
  readonly faults: readonly TextFault[];
  /** A formula of temporal logic was typed: the sentence that says it. */
  readonly words?: FormulaAsSentence;
}

/** Reads a criterion's sentence, or a formula of signal temporal logic that can be put as one. Faults carry the place inside the text. */
export const parseSentence = remember((text): ReadSentence => (looksLikeStl(text) ? parseStl(text) : parseWords(text)));

function parseStl(text: string): ReadSentence {
  const everywhere = { from: 0, until: text.length };
  try {
    const words = sentenceOfStl(text);
    const { sentence, faults } = parseWords(words.sentence);
    return { ...(sentence ? { sentence } : {}), faults: faults.map((fault) => ({ ...fault, span: everywhere })), words };
  } catch (problem) {
    if (!(problem instanceof NotStl)) throw problem;
    const { message, fix, at } = problem;
    return { faults: [{ span: { from: at, until: text.length }, code: 'syntax', message, fix }] };
  }
}

function parseWords(text: string): ReadSentence {
  const parser = new Parser(text, dialect);
  const sentence = parser.attempt(() => {
    const found = readSentence(parser);
    if (parser.next.kind !== 'end')
      parser.fail(`${describe(parser.next)} cannot follow here.`, `Remove it, or join conditions with AND and OR. ${shapes}`);
    return found;
  });
  return { ...(sentence && parser.faults.length === 0 ? { sentence } : {}), faults: parser.faults };
}

function readSentence(parser: Parser): Sentence {
  if (parser.takeIf('always')) return { k: 'always', holds: parser.expression() };
  if (parser.takeIf('never')) return { k: 'never', holds: parser.expression() };
  if (parser.takeIf('while')) {
    const during = parser.expression();
    const lasting = parser.takeIf('for') ? { seconds: readSeconds(parser, 'for') } : {};
    comma(parser);
    return { k: 'while', during, ...lasting, holds: parser.expression() };
  }
  if (parser.takeIf('when')) return answered(parser, readTrigger(parser));
  if (parser.takeIf('if')) return answered(parser, readLasting(parser));
  if (parser.takeIf('sequence')) return readSequence(parser);
  const measured = readMeasure(parser, {
    event: () => readEvent(parser),
    shortEvent: () => readEvent(parser, () => parser.primary()),
    seconds: (word) => readSeconds(parser, word),
  });
  if (measured) return { k: 'measure', ...measured, scope: readScope(parser) };
  return parser.fail(`A sentence cannot begin with ${describe(parser.next)}.`, shapes);
}

/** `while S`, `after D`, both or none, behind a measure. */
function readScope(parser: Parser): MeasureScope<Expression> {
  let scope: MeasureScope<Expression> = {};
  for (;;) {
    if (scope.during === undefined && parser.takeIf('while')) scope = { ...scope, during: parser.expression() };
    else if (scope.after === undefined && parser.seesTimeAfter('after')) {
      parser.take();
      scope = { ...scope, after: readSeconds(parser, 'after') };
    } else return scope;
  }
}

/** What follows the trigger: `while S`, and what is owed. */
function answered(parser: Parser, event: SentenceTrigger): Sentence {
  const during = parser.takeIf('while') ? parser.expression() : undefined;
  comma(parser);
  return { k: 'when', event, ...(during ? { during } : {}), ...readOwed(parser) };
}

/** An event, or `start` right before the comma; elsewhere that word is a name like any other. */
function readTrigger(parser: Parser): SentenceTrigger {
  if (!parser.seesCommaAfter('start')) return readEvent(parser);
  parser.take();
  return { k: 'start' };
}

function readLasting(parser: Parser): SentenceTrigger {
  const of = parser.expression();
  parser.expect('for', 'Say for how long: if S for 2 s, … For an event write: when S rises, … For as long as S holds: while S, …');
  return { k: 'lasts', of, seconds: readSeconds(parser, 'for') };
}

function readSequence(parser: Parser): Sentence {
  const events = [readEvent(parser)];
  while (parser.takeIf('then')) events.push(readEvent(parser));
  if (events.length < 2)
    parser.fail(`A sequence has at least two events; "then" is missing before ${describe(parser.next)}.`, 'Write: sequence A rises then B rises.');
  return { k: 'sequence', events, ...(parser.takeIf('within') ? { seconds: readSeconds(parser, 'within') } : {}) };
}

function comma(parser: Parser): void {
  parser.expect(',', 'Put a comma between the condition and what must hold.');
}

/** @param last how a value at the end of the event is read: where AND follows, it is a single one */
function readEvent(parser: Parser, last = (): Expression => parser.expression()): SentenceEvent {
  for (const k of ['enters', 'leaves'] as const) {
    if (parser.takeIf(k)) return { k, of: last() };
  }
  const of = parser.expression();
  for (const k of ['rises', 'falls', 'changes'] as const) {
    if (parser.takeIf(k)) return { k, of };
  }
  if (parser.takeIf('becomes')) return { k: 'becomes', of, value: last() };
  if (parser.takeIf('crosses')) {
    const level = parser.expression();
    if (parser.takeIf('upward')) return { k: 'crosses', of, level, upward: true };
    if (parser.takeIf('downward')) return { k: 'crosses', of, level, upward: false };
    parser.fail(`"upward" or "downward" is missing before ${describe(parser.next)}.`, 'Write: when level crosses 3 m upward, …');
  }
  return parser.fail(
    `The event is not complete before ${describe(parser.next)}.`,
    'Say what happens: x rises · x falls · x becomes V · x changes · x crosses v upward · enters S · leaves S. For a condition, begin with while; for one that has lasted, write if S for 2 s.',
  );
}

/** A timing and the condition, in the order in which they are written. */
function readOwed(parser: Parser): { readonly timing: SentenceTiming; readonly holds: Expression } {
  const timing = readTiming(parser);
  const holds = parser.expression();
  if (timing.k === 'within' && parser.takeIf('for'))
    return { timing: { k: 'within for', seconds: timing.seconds, lasting: readSeconds(parser, 'for') }, holds };
  if (timing.k !== 'at once' || !parser.takeIf('until')) return { timing, holds };
  const release = parser.expression();
  return { timing: { k: 'until', release, ...(parser.takeIf('within') ? { seconds: readSeconds(parser, 'within') } : {}) }, holds };
}

function readTiming(parser: Parser): SentenceTiming {
  for (const k of ['within', 'for', 'after'] as const) {
    if ((k === 'after' && !parser.seesTimeAfter(k)) || !parser.takeIf(k)) continue;
    const seconds = readSeconds(parser, k);
    parser.takeIf(',');
    return { k, seconds };
  }
  if (!parser.seesTimeAfter('between')) return { k: 'at once' };
  parser.take();
  const earliest = readSeconds(parser, 'between');
  parser.expect('and', 'Write both ends of the window: between 1 s and 3 s P');
  const start = parser.next;
  const seconds = readSeconds(parser, 'and');
  if (seconds < earliest) parser.fail('The window ends before it begins.', 'Write the earlier time first.', 'time', start.span);
  parser.takeIf(',');
  return { k: 'between', earliest, seconds };
}

/** A time after one of the sentence's words, in seconds. */
function readSeconds(parser: Parser, word: string): number {
  const start = parser.next;
  const duration = start.kind === 'number' || start.kind === 'time' ? parser.primary() : undefined;
  const seconds = duration ? secondsOf(duration) : undefined;
  if (seconds === undefined) parser.fail(`A time is missing after "${word}".`, `Write a number with a unit of time: ${word} 2 s`, 'time', start.span);
  const nanoseconds = seconds * 1e9;
  if (Math.abs(nanoseconds - Math.round(nanoseconds)) > 1e-6 * Math.max(1, nanoseconds * 1e-9))
    parser.fail('A time is a whole number of nanoseconds.', 'Round it.', 'time', start.span);
  return Math.round(nanoseconds) / 1e9;
}

/** A time as it is written, in seconds; nothing for anything else. */
export function secondsOf(duration: Expression): number | undefined {
  if (duration.kind === 'time') return duration.nanoseconds / 1e9;
  if (duration.kind !== 'number' || !duration.unit) return undefined;
  return duration.value < 0 ? undefined : converted(duration.value, duration.unit, 's');
}

/** The exact meaning in signal temporal logic; ↑ marks an event, ⁻ a value just before it. */
export function printStl(sentence: Sentence): string {
  const text = (expression: Expression): string => printExpression(expression);
  const inner = (expression: Expression): string =>
    expression.kind === 'binary' || expression.kind === 'near' ? `(${text(expression)})` : text(expression);
  switch (sentence.k) {
    case 'always':
      return `G ${inner(sentence.holds)}`;
    case 'never':
      return `G ¬${inner(sentence.holds)}`;
    case 'while':
      return `G (${sentence.seconds === undefined ? '' : `H(0,${sentence.seconds}] `}${inner(sentence.during)} → ${inner(sentence.holds)})`;
    case 'when': {
      const event = printTrigger(sentence.event, inner);
      const trigger = sentence.during ? `${event} ∧ ${inner(sentence.during)}⁻` : event;
      // What is owed at the start alone needs no G.
      if (sentence.event.k === 'start') return printOwed(sentence.timing, inner(sentence.holds), inner);
      return `G (${trigger} → ${printOwed(sentence.timing, inner(sentence.holds), inner)})`;
    }
    case 'measure':
      return printMeasure(sentence.measure, sentence.limit, sentence.scope, (event) => printEvent(event, inner));
    case 'sequence': {
      const events = sentence.events.map((event) => printEvent(event, inner));
      const within = sentence.seconds === undefined ? '' : `, all in [0,${sentence.seconds}]`;
      return `G (${events[0]} → ${printOrder(events.slice(1))}${within})`;
    }
  }
}

function printTrigger(trigger: SentenceTrigger, inner: (expression: Expression) => string): string {
  if (trigger.k === 'start') return 'start';
  return trigger.k === 'lasts' ? `↑H(0,${trigger.seconds}] ${inner(trigger.of)}` : printEvent(trigger, inner);
}

function printOwed(timing: SentenceTiming, holds: string, inner: (expression: Expression) => string): string {
  switch (timing.k) {
    case 'at once':
      return holds;
    case 'within':
      return `F[0,${timing.seconds}] ${holds}`;
    case 'for':
      return `G[0,${timing.seconds}) ${holds}`;
    case 'after':
      return `G[${timing.seconds},∞) ${holds}`;
    case 'within for':
      return `F[0,${timing.seconds}] G[0,${timing.lasting}) ${holds}`;
    case 'between':
      return `G[0,${timing.earliest}) ¬${holds} ∧ F[${timing.earliest},${timing.seconds}] ${holds}`;
    case 'until':
      return timing.seconds === undefined ? `${holds} W ${inner(timing.release)}` : `${holds} U[0,${timing.seconds}] ${inner(timing.release)}`;
  }
}

/** The next event comes before any later one. */
function printOrder([next = '', ...later]: readonly string[]): string {
  if (later.length === 0) return `F ${next}`;
  const none = later.length === 1 ? `¬${later[0]}` : `¬(${later.join(' ∨ ')})`;
  return `${none} U (${next} ∧ ${printOrder(later)})`;
}

function printEvent(event: SentenceEvent, inner: (expression: Expression) => string): string {
  switch (event.k) {
    case 'rises':
      return `↑${inner(event.of)}`;
    case 'falls':
      return `↓${inner(event.of)}`;
    case 'changes':
      return `⇅${inner(event.of)}`;
    case 'becomes':
      return `↑(${inner(event.of)} = ${inner(event.value)})`;
    case 'crosses':
      return `↑(${inner(event.of)} ${event.upward ? '≥' : '≤'} ${inner(event.level)})`;
    case 'enters':
      return `↑${inner(event.of)}`;
    case 'leaves':
      return `↓${inner(event.of)}`;
  }
}
