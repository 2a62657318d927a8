import { type Expression, nameKey, printExpression } from '@/core/language';
import { unitCode, unitOfDifference } from '@/core/units';
import { printMeasure } from './measureSentence';
import { parseSentence } from './sentence';
import type { Sentence, SentenceEvent, SentenceTiming, SentenceTrigger } from './sentenceTypes';

/**
 * One form for sentences that say the same by the laws of logic: negations stand at the comparisons, parts of AND and OR are sorted,
 * `never P` is `always NOT P`, a range is two bounds, `falls` is the rising of the contrary. Equal texts mean equal criteria; unequal ones may still.
 */
export function normalForm(sentence: Sentence): string {
  switch (sentence.k) {
    case 'always':
      return `always ${condition(sentence.holds)}`;
    case 'never':
      return `always ${condition(sentence.holds, true)}`;
    case 'while':
      return `while ${condition(sentence.during)}${sentence.seconds === undefined ? '' : ` for ${sentence.seconds}`}, ${condition(sentence.holds)}`;
    case 'when': {
      const during = sentence.during ? ` while ${condition(sentence.during)}` : '';
      return `when ${trigger(sentence.event)}${during}, ${owed(sentence.timing, condition(sentence.holds))}`;
    }
    case 'measure':
      return nameKey(printMeasure(inUcum(sentence.measure), inUcum(sentence.limit), inUcum(sentence.scope), event));
    case 'sequence':
      return `sequence ${sentence.events.map(event).join(' then ')}${sentence.seconds === undefined ? '' : ` within ${sentence.seconds}`}`;
  }
}

/** The same from a sentence's text; a text that is no sentence stays as it is. */
export function normalSentence(text: string): string {
  const { sentence } = parseSentence(text);
  return sentence ? normalForm(sentence) : text;
}

function owed(timing: SentenceTiming, holds: string): string {
  switch (timing.k) {
    case 'at once':
      return holds;
    case 'within':
    case 'for':
    case 'after':
      return `${timing.k} ${timing.seconds} ${holds}`;
    case 'within for':
      return `within ${timing.seconds} ${holds} for ${timing.lasting}`;
    case 'between':
      return `between ${timing.earliest} and ${timing.seconds} ${holds}`;
    case 'until':
      return `${holds} until ${condition(timing.release)}${timing.seconds === undefined ? '' : ` within ${timing.seconds}`}`;
  }
}

function trigger(of: SentenceTrigger): string {
  if (of.k === 'start') return 'start';
  return of.k === 'lasts' ? `${condition(of.of)} for ${of.seconds}` : event(of);
}

function event(of: SentenceEvent): string {
  switch (of.k) {
    case 'rises':
      return `${condition(of.of)} rises`;
    case 'falls':
      return `${condition(of.of, true)} rises`;
    case 'becomes':
      return `${condition({ kind: 'binary', operator: '=', left: of.of, right: of.value, span: of.of.span })} rises`;
    case 'crosses':
      return `${condition({ kind: 'binary', operator: of.upward ? '>=' : '<=', left: of.of, right: of.level, span: of.of.span })} rises`;
    case 'changes':
    case 'enters':
    case 'leaves':
      return `${of.k} ${printed(of.of)}`;
  }
}

const contrary = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '<>', '<>': '=' } as const;
const turned = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=', '<>': '<>' } as const;

function condition(of: Expression, negated = false): string {
  if (of.kind === 'unary' && of.operator === 'NOT') return condition(of.operand, !negated);
  if (of.kind === 'between') {
    const bound = (operator: '>=' | '<=', right: Expression): Expression => ({ kind: 'binary', operator, left: of.operand, right, span: of.span });
    return condition({ kind: 'binary', operator: 'AND', left: bound('>=', of.low), right: bound('<=', of.high), span: of.span }, negated);
  }
  if (of.kind === 'binary' && (of.operator === 'AND' || of.operator === 'OR')) {
    const both = (of.operator === 'AND') !== negated;
    const parts = [...new Set(operandsOf(of, of.operator).map((part) => condition(part, negated)))].sort();
    return `(${parts.join(both ? ' AND ' : ' OR ')})`;
  }
  if (of.kind === 'binary' && of.operator in contrary) {
    const operator = of.operator as keyof typeof contrary;
    // The number stands at the right.
    const [left, right, way] = of.left.kind === 'number' ? [of.right, of.left, turned[operator]] : [of.left, of.right, operator];
    return `${printed(left)} ${negated ? contrary[way] : way} ${printed(right)}`;
  }
  return `${negated ? 'NOT ' : ''}${printed(of)}`;
}

function operandsOf(of: Expression, operator: 'AND' | 'OR'): Expression[] {
  return of.kind === 'binary' && of.operator === operator ? [...operandsOf(of.left, operator), ...operandsOf(of.right, operator)] : [of];
}

function printed(of: Expression): string {
  return nameKey(printExpression(inUcum(of)));
}

/** The same with its units in one spelling; a tolerance or a band in °C is one in kelvins. */
function inUcum<T>(part: T, isDifference = false): T {
  if (Array.isArray(part)) return part.map((one) => inUcum(one)) as T;
  if (typeof part !== 'object' || part === null) return part;
  const spelt = Object.fromEntries(Object.entries(part).map(([key, inner]) => [key, inUcum(inner, key === 'tolerance' || key === 'band')]));
  if (spelt.kind === 'number' && spelt.unit !== undefined) spelt.unit = unitCode(isDifference ? unitOfDifference(spelt.unit) : spelt.unit);
  return spelt as T;
}
