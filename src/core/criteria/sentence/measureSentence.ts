import { describe, type Expression, type Parser, printDuration, printExpression } from '@/core/language';
import type { MeasureScope } from '../types';
import type { LimitText, SentenceEvent, SentenceMeasure } from './sentenceTypes';

const shapes =
  'Measures are: overshoot of y to r <= 5 % · settling of y to r within 2 % <= 8 s · rise time of y to r <= 2 s · steady error of y to r <= 0.1 m · peak, rms or mean of y <= 3 m · duration of S <= 3 s (the sum) · longest S <= 3 s (each stretch) · count of E <= 2 · count of E in any 1 h <= 6 · time from E1 to E2 <= 3 s · between E1 and E2 at least 3 s; all with while S or after 30 s behind it.';

/** How the parts of a measure are read that other sentences have as well. */
interface Readers {
  readonly event: () => SentenceEvent;
  /** One that an `and` or a limit may follow. */
  readonly shortEvent: () => SentenceEvent;
  readonly seconds: (word: string) => number;
}

/** Reads a measure where one stands; nothing for any other sentence. */
export function readMeasure(parser: Parser, read: Readers): Read | undefined {
  for (const kind of ['overshoot', 'rise time', 'steady error', 'settling'] as const) {
    if (!takeWords(parser, kind)) continue;
    parser.expect('of', shapes);
    const of = parser.expression();
    parser.expect('to', `Say what it follows: ${kind} of y to r <= … ${shapes}`);
    const to = parser.expression();
    if (kind !== 'settling') return compared(parser, to, (reference) => ({ k: 'step', kind, of, to: reference }));
    parser.expect('within', 'Say the band: settling of y to r within 2 % <= 8 s');
    return compared(parser, parser.expression(), (band) => ({ k: 'step', kind, of, to, band }));
  }
  for (const kind of ['peak', 'rms', 'mean', 'duration', 'longest'] as const) {
    if (!takeWords(parser, kind)) continue;
    if (kind === 'longest') parser.takeIf('of');
    else parser.expect('of', shapes);
    return compared(parser, parser.expression(), (of) => (kind === 'duration' || kind === 'longest' ? { k: kind, of } : { k: 'whole', kind, of }));
  }
  if (takeWords(parser, 'count')) {
    parser.expect('of', shapes);
    const event = read.event();
    if (!parser.takeIf('in')) return eventCompared(parser, event, (of) => ({ k: 'count', of }));
    parser.expect('any', 'Write: count of E in any 1 h <= 6');
    const seconds = read.seconds('any');
    return eventCompared(parser, event, (of) => ({ k: 'count', of, seconds }));
  }
  if (takeWords(parser, 'between')) return distance(parser, read);
  if (!takeWords(parser, 'time')) return undefined;
  parser.expect('from', shapes);
  const from = read.event();
  parser.expect('to', 'Write: time from E1 to E2 <= 3 s');
  return eventCompared(parser, read.event(), (to) => ({ k: 'time', from, to }));
}

/** `between E1 and E2 at least D` */
function distance(parser: Parser, read: Readers): Read {
  const fix = 'Write: between E1 and E2 at least 3 s';
  const from = read.shortEvent();
  parser.expect('and', fix);
  const to = read.shortEvent();
  parser.expect('at', fix);
  parser.expect('least', fix);
  return { measure: { k: 'distance', from, to }, limit: { operator: '>=', value: parser.primary() } };
}

/** Takes one or two words, where the sentence begins with them. */
function takeWords(parser: Parser, words: string): boolean {
  const [first = '', second] = words.split(' ');
  if (!parser.sees(first)) return false;
  parser.take();
  if (second) parser.expect(second, shapes);
  return true;
}

interface Read {
  readonly measure: SentenceMeasure;
  readonly limit: LimitText;
}

/** What is measured and its limit were read as one comparison; here they part. */
function compared(parser: Parser, whole: Expression, make: (left: Expression) => SentenceMeasure): Read {
  if (whole.kind !== 'binary' || !isOrder(whole.operator))
    return parser.fail(
      `A limit is missing before ${describe(parser.next)}.`,
      `Compare the measure with a figure; a condition with AND or OR stands in parentheses. ${shapes}`,
    );
  return { measure: make(whole.left), limit: { operator: whole.operator, value: whole.right } };
}

function eventCompared(parser: Parser, event: SentenceEvent, make: (event: SentenceEvent) => SentenceMeasure): Read {
  const last = event.k === 'becomes' ? event.value : event.k === 'enters' || event.k === 'leaves' ? event.of : undefined;
  if (last?.kind === 'binary' && isOrder(last.operator)) {
    const part = event.k === 'becomes' ? { ...event, value: last.left } : ({ ...event, of: last.left } as SentenceEvent);
    return { measure: make(part), limit: { operator: last.operator, value: last.right } };
  }
  for (const operator of ['<=', '>=', '<', '>'] as const)
    if (parser.takeIf(operator)) return { measure: make(event), limit: { operator, value: parser.expression() } };
  return parser.fail(`A limit is missing before ${describe(parser.next)}.`, shapes);
}

function isOrder(operator: string): operator is LimitText['operator'] {
  return operator === '<' || operator === '<=' || operator === '>' || operator === '>=';
}

/** The measure as it is written; `print` prints an event. */
export function printMeasure(
  measure: SentenceMeasure,
  { operator, value }: LimitText,
  { during, after }: MeasureScope<Expression>,
  print: (event: SentenceEvent) => string,
): string {
  const limit = measure.k === 'distance' ? `at least ${printExpression(value)}` : `${operator} ${printExpression(value)}`;
  const where = `${during ? ` while ${printExpression(during)}` : ''}${after === undefined ? '' : ` after ${printDuration(Math.round(after * 1e9))}`}`;
  return `${measured(measure, print)} ${limit}${where}`;
}

function measured(measure: SentenceMeasure, print: (event: SentenceEvent) => string): string {
  switch (measure.k) {
    case 'step':
      return `${measure.kind} of ${printExpression(measure.of)} to ${printExpression(measure.to)}${measure.band ? ` within ${printExpression(measure.band)}` : ''}`;
    case 'whole':
      return `${measure.kind} of ${printExpression(measure.of)}`;
    case 'duration':
      return `duration of ${condition(measure.of)}`;
    case 'longest':
      return `longest ${condition(measure.of)}`;
    case 'count':
      return `count of ${print(measure.of)}${measure.seconds === undefined ? '' : ` in any ${printDuration(Math.round(measure.seconds * 1e9))}`}`;
    case 'time':
      return `time from ${print(measure.from)} to ${print(measure.to)}`;
    case 'distance':
      return `between ${print(measure.from)} and ${print(measure.to)}`;
  }
}

function condition(of: Expression): string {
  return of.kind === 'binary' ? `(${printExpression(of)})` : printExpression(of);
}
