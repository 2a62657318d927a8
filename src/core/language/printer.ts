import type { BinaryOperator, Expression, Index } from './ast';
import { printDuration } from './duration';

const binding: Readonly<Record<BinaryOperator, number>> = {
  OR: 1,
  XOR: 2,
  AND: 3,
  '=': 4,
  '<>': 4,
  '<': 5,
  '>': 5,
  '<=': 5,
  '>=': 5,
  '+': 6,
  '-': 6,
  '*': 7,
  '/': 7,
  MOD: 7,
  '**': 8,
};
const unaryBinding = 9;

/** Prints an expression as Structured Text with only the parentheses it needs; reading it back gives the same tree. */
export function printExpression(expression: Expression, outer = 0): string {
  switch (expression.kind) {
    case 'number':
      return `${expression.type ? `${expression.type}#` : ''}${printNumber(expression.value, expression.whole)}${expression.unit ? ` ${expression.unit}` : ''}`;
    case 'boolean':
      return expression.value ? 'TRUE' : 'FALSE';
    case 'time':
      return `T#${printDuration(expression.nanoseconds).replace(' min', 'm').replace(' ', '')}`;
    case 'name':
      return expression.path.join('.');
    case 'element':
      return expression.path.map((part, at) => `${part}${printIndices(expression.indices, at + 1)}`).join('.');
    case 'call':
      return `${expression.name}(${expression.operands.map((operand, index) => `${expression.names ? `${expression.names[index]} := ` : ''}${printExpression(operand)}`).join(', ')})`;
    case 'unary':
      return enclose(`${expression.operator === '-' ? '-' : 'NOT '}${printExpression(expression.operand, unaryBinding)}`, unaryBinding, outer);
    case 'binary': {
      const own = binding[expression.operator];
      return enclose(`${printExpression(expression.left, own)} ${expression.operator} ${printExpression(expression.right, own + 1)}`, own, outer);
    }
    case 'rate':
      return `rate of ${printExpression(expression.operand, unaryBinding + 1)}`;
    case 'between':
      return enclose(
        `${printExpression(expression.operand, unaryBinding)} in [${printExpression(expression.low)}, ${printExpression(expression.high)}]`,
        unaryBinding,
        outer,
      );
    case 'near':
      return enclose(
        `${printExpression(expression.operand, 5)} = ${printExpression(expression.target, 5)} ± ${printExpression(expression.tolerance, 5)}`,
        4,
        outer,
      );
  }
}

function enclose(text: string, own: number, outer: number): string {
  return own < outer ? `(${text})` : text;
}

function printNumber(value: number, whole: boolean): string {
  const text = String(value);
  return whole || /[.e]/.test(text) ? text.replace(/^(\d+)e/, '$1.0e') : `${text}.0`;
}

function printIndices(indices: readonly Index[], after: number): string {
  const own = indices.filter((index) => index.after === after).map((index) => printExpression(index.value));
  return own.length > 0 ? `[${own.join(', ')}]` : '';
}
