import { type Dialect, describe, type Expression, Parser, printExpression, remember, type Span, type TextFault } from '../language';
import { conversion, findUnit } from '../units';
import { directions, keywords } from './words';

/** A sentence as it was read, before names are bound. */
export type Sentence =
  | { readonly k: 'always'; readonly holds: Expression }
  | { readonly k: 'never'; readonly holds: Expression }
  | { readonly k: 'while'; readonly during: Expression; readonly holds: Expression }
  | { readonly k: 'when'; readonly event: SentenceEvent; readonly during?: Expression; readonly holds: Expression; readonly timing: SentenceTiming };

export type SentenceTiming = { readonly k: 'at once' } | { readonly k: 'within' | 'for'; readonly seconds: number; readonly span: Span };

export type SentenceEvent =
  | { readonly k: 'rises' | 'falls' | 'changes'; readonly of: Expression }
  | { readonly k: 'becomes'; readonly of: Expression; readonly value: Expression }
  | { readonly k: 'crosses'; readonly of: Expression; readonly level: Expression; readonly upward: boolean }
  | { readonly k: 'enters' | 'leaves'; readonly of: Expression };

const dialect: Dialect = { stops: keywords, after: directions, sentence: true, isUnit: (text) => findUnit(text) !== undefined };

const shapes = 'A sentence is: always P · never P · while S, P · when E, P · when E while S, within 2 s P · when E, for 3 s P.';

/** Reads a criterion's sentence. Faults carry the place inside the sentence. */
export const parseSentence = remember((text): { readonly sentence?: Sentence; readonly faults: readonly TextFault[] } => {
  const parser = new Parser(text, dialect);
  const sentence = parser.attempt(() => {
    const found = readSentence(parser);
    if (parser.next.kind !== 'end')
      parser.fail(`${describe(parser.next)} cannot follow here.`, `Remove it, or join conditions with AND and OR. ${shapes}`);
    return found;
  });
  return { ...(sentence && parser.faults.length === 0 ? { sentence } : {}), faults: parser.faults };
});

function readSentence(parser: Parser): Sentence {
  if (parser.takeIf('always')) return { k: 'always', holds: parser.expression() };
  if (parser.takeIf('never')) return { k: 'never', holds: parser.expression() };
  if (parser.takeIf('while')) {
    const during = parser.expression();
    comma(parser);
    return { k: 'while', during, holds: parser.expression() };
  }
  if (parser.takeIf('when')) {
    const event = readEvent(parser);
    const during = parser.takeIf('while') ? parser.expression() : undefined;
    comma(parser);
    const timing = readTiming(parser);
    return { k: 'when', event, ...(during ? { during } : {}), timing, holds: parser.expression() };
  }
  return parser.fail(`A sentence cannot begin with ${describe(parser.next)}.`, shapes);
}

function comma(parser: Parser): void {
  parser.expect(',', 'Put a comma between the condition and what must hold.');
}

function readEvent(parser: Parser): SentenceEvent {
  for (const k of ['enters', 'leaves'] as const) {
    if (parser.takeIf(k)) return { k, of: parser.expression() };
  }
  const of = parser.expression();
  for (const k of ['rises', 'falls', 'changes'] as const) {
    if (parser.takeIf(k)) return { k, of };
  }
  if (parser.takeIf('becomes')) return { k: 'becomes', of, value: parser.expression() };
  if (parser.takeIf('crosses')) {
    const level = parser.expression();
    if (parser.takeIf('upward')) return { k: 'crosses', of, level, upward: true };
    if (parser.takeIf('downward')) return { k: 'crosses', of, level, upward: false };
    parser.fail(`"upward" or "downward" is missing before ${describe(parser.next)}.`, 'Write: when level crosses 3 m upward, …');
  }
  return parser.fail(
    `The event is not complete before ${describe(parser.next)}.`,
    'Say what happens: x rises · x falls · x becomes V · x changes · x crosses v upward · enters S · leaves S. For a condition that lasts, begin with while.',
  );
}

function readTiming(parser: Parser): SentenceTiming {
  for (const k of ['within', 'for'] as const) {
    const word = parser.takeIf(k);
    if (!word) continue;
    const start = parser.next;
    const duration = start.kind === 'number' || start.kind === 'time' ? parser.expression() : undefined;
    const seconds = duration ? toSeconds(duration) : undefined;
    if (!duration || seconds === undefined)
      parser.fail(`A time is missing after "${k}".`, `Write a number with a unit of time: ${k} 2 s`, 'time', start.span);
    const nanoseconds = seconds * 1e9;
    if (Math.abs(nanoseconds - Math.round(nanoseconds)) > 1e-6 * Math.max(1, nanoseconds * 1e-9))
      parser.fail('A time is a whole number of nanoseconds.', 'Round it.', 'time', start.span);
    parser.takeIf(',');
    return { k, seconds: Math.round(nanoseconds) / 1e9, span: { from: word.span.from, until: duration.span.until } };
  }
  return { k: 'at once' };
}

function toSeconds(duration: Expression): number | undefined {
  if (duration.kind === 'time') return duration.nanoseconds / 1e9;
  if (duration.kind !== 'number' || !duration.unit) return undefined;
  const factor = conversion(duration.unit, 's');
  return factor === undefined || duration.value < 0 ? undefined : duration.value * factor;
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
      return `G (${inner(sentence.during)} → ${inner(sentence.holds)})`;
    case 'when': {
      const event = printEvent(sentence.event, inner);
      const trigger = sentence.during ? `${event} ∧ ${inner(sentence.during)}⁻` : event;
      const { timing } = sentence;
      const owed =
        timing.k === 'at once'
          ? inner(sentence.holds)
          : `${timing.k === 'within' ? `F[0,${timing.seconds}]` : `G[0,${timing.seconds})`} ${inner(sentence.holds)}`;
      return `G (${trigger} → ${owed})`;
    }
  }
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
