import type { Comparison, Expression } from './ast';

const opposite: Readonly<Record<Comparison, Comparison>> = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '<>', '<>': '=' };

/** The contrary of a condition; of a comparison the opposite one, of AND and OR that of their parts. */
export function negationOf(condition: Expression): Expression {
  if (condition.kind === 'boolean') return { ...condition, value: !condition.value };
  if (condition.kind === 'unary' && condition.operator === 'NOT') return condition.operand;
  if (condition.kind === 'binary') {
    const { operator, left, right } = condition;
    if (operator === 'AND' || operator === 'OR')
      return { ...condition, operator: operator === 'AND' ? 'OR' : 'AND', left: negationOf(left), right: negationOf(right) };
    if (operator in opposite) return { ...condition, operator: opposite[operator as Comparison] };
  }
  return { kind: 'unary', span: condition.span, operator: 'NOT', operand: condition };
}

/** The parts that all have to hold for a condition to; a range is two of them. */
export function conjunctsOf(condition: Expression): Expression[] {
  return partsOf(condition, 'AND');
}

/** The parts of which each is enough for a condition to hold. */
export function alternativesOf(condition: Expression): Expression[] {
  return partsOf(condition, 'OR');
}

function partsOf(condition: Expression, joint: 'AND' | 'OR'): Expression[] {
  if (condition.kind === 'unary' && condition.operator === 'NOT') {
    const inward = negationOf(condition.operand);
    // What has no contrary but its own NOT is a part by itself.
    return inward.kind === 'unary' ? [condition] : partsOf(inward, joint);
  }
  if (condition.kind === 'between' && joint === 'AND') {
    const { operand, low, high, span } = condition;
    return [
      { kind: 'binary', operator: '>=', left: operand, right: low, span },
      { kind: 'binary', operator: '<=', left: operand, right: high, span },
    ];
  }
  if (condition.kind !== 'binary' || condition.operator !== joint) return [condition];
  return [...partsOf(condition.left, joint), ...partsOf(condition.right, joint)];
}

/** All of some conditions; nothing where there are none. */
export function allOf(conditions: readonly (Expression | undefined)[]): Expression | undefined {
  return conditions.reduce((a, b) => (a && b ? { kind: 'binary', operator: 'AND', left: a, right: b, span: a.span } : (a ?? b)), undefined);
}
