import { elements } from '@/core/behaviour';
import { type Expression, nameKey, parseExpression, printExpression } from '@/core/language';
import type { RawComponent, RawPart } from '@/core/shapes';

/** A longer equation would make its slip the widest thing of a drawing. */
const longest = 72;

/**
 * The equation on an element's slip, with the values it has there: that of the element's own definition, whose names are replaced by the values of its parameters and by
 * what its inputs are given as plain values.
 * @param plain what an input is given that no wire brings: a number, or a parameter of the network
 */
export function equationOf({ use, parameters = {}, settings = {}, inputs = {} }: RawPart, plain: Readonly<Record<string, string>>): string {
  const element = elements.get(nameKey(use));
  const words = use.replace(/_/g, ' ');
  const [continuous, sampled] = [false, true].map((isSampled) => element?.build(settings, isSampled, Object.keys(inputs)));
  const built = typeof continuous === 'object' ? continuous : sampled;
  if (!element || typeof built !== 'object') return words;
  const values: Record<string, string> = { ...plain };
  for (const [name, own] of Object.entries(built.parameters ?? {})) {
    // What only one of the two has counts where it is given: here it is not known yet which of them the part becomes.
    const isOfBoth = typeof sampled !== 'object' || sampled.parameters?.[name] !== undefined;
    if (isOfBoth || parameters[name] !== undefined) values[name] = String(parameters[name] ?? own.value);
  }
  const text = element.equation?.(values, settings) ?? definitionOf(built);
  const printed = text === undefined ? undefined : element.equation ? pretty(replacedIn(text, values)) : printedOf(text, values);
  // A table is no equation that anybody could read.
  if (printed === undefined || printed.length > longest || printed.includes('SEL(')) return withPlain(words, plain);
  return printed;
}

/** Of an element without memory the one expression that it is. */
function definitionOf({ behaviour }: RawComponent): string | undefined {
  return behaviour.kind === 'equations' && Object.keys(behaviour.states ?? {}).length === 0 ? String(behaviour.outputs?.out ?? '') : undefined;
}

function printedOf(text: string, values: Readonly<Record<string, string>>): string | undefined {
  const { expression } = parseExpression(text);
  return expression && pretty(inWords(replaced(withoutNothing(expression), values)));
}

/** What is given as a value and stands in no equation is told beside the element's name. */
function withPlain(words: string, plain: Readonly<Record<string, string>>): string {
  return pretty([words, ...Object.entries(plain).map(([name, value]) => `${name} = ${value}`)].join(', '));
}

function replaced(of: Expression, values: Readonly<Record<string, string>>): Expression {
  switch (of.kind) {
    case 'name': {
      const value = of.path.length === 1 ? values[of.path[0] ?? ''] : undefined;
      return value === undefined ? of : (parseExpression(value).expression ?? of);
    }
    case 'unary':
      return { ...of, operand: replaced(of.operand, values) };
    case 'binary':
      return { ...of, left: replaced(of.left, values), right: replaced(of.right, values) };
    case 'call':
      return { ...of, operands: of.operands.map((operand) => replaced(operand, values)) };
    case 'number':
    case 'boolean':
    case 'time':
    case 'element':
    case 'rate':
    case 'between':
    case 'near':
      return of;
  }
}

/** Definitions add 0.0 where a whole number is to become a real one. */
function withoutNothing(of: Expression): Expression {
  return of.kind === 'binary' && of.operator === '+' && of.right.kind === 'number' && of.right.value === 0 ? of.left : of;
}

/** Two forms that an engineer reads more easily than a call. */
function inWords(of: Expression): string {
  if (of.kind === 'call' && of.name === 'SEL') {
    const [condition, no, yes] = of.operands;
    if (condition && no && yes && !isChoice(no) && !isChoice(yes))
      return `${printExpression(yes)} if ${printExpression(condition)}, else ${printExpression(no)}`;
  }
  if (of.kind === 'call' && of.name === 'LIMIT') {
    const [low, value, high] = of.operands;
    if (low && high && value?.kind === 'name') return `${printExpression(low)} … ${printExpression(high)}`;
  }
  return printExpression(of);
}

function isChoice(of: Expression): boolean {
  return of.kind === 'call' && of.name === 'SEL';
}

/** The words of an element's own equation, in which only its names are replaced. */
function replacedIn(text: string, values: Readonly<Record<string, string>>): string {
  return text.replace(/[a-z]\w*/gi, (name) => values[name] ?? name);
}

function pretty(text: string): string {
  return text
    .replaceAll('3.141592653589793', 'π')
    .replace(/--/g, '- -')
    .replace(/(\d)\.0(?!\d)/g, '$1')
    .replace(/ \* /g, ' · ')
    .replace(/>=/g, '≥')
    .replace(/<=/g, '≤')
    .replace(/-/g, '−');
}
