import type { Expression } from '@/core/language';
import type { ConditionTree, Node } from '@/core/plan';

/** The conditions of a truth as somebody has written it, with their texts: what stands between AND, OR, XOR and NOT. */
export function conditionTree(text: string, expression: Expression, node: Node): ConditionTree {
  if (expression.kind === 'binary' && node.k === 'logic' && expression.operator === node.operator)
    return {
      k: node.operator === 'AND' ? 'and' : node.operator === 'OR' ? 'or' : 'xor',
      a: conditionTree(text, expression.left, node.a),
      b: conditionTree(text, expression.right, node.b),
    };
  if (expression.kind === 'unary' && expression.operator === 'NOT' && node.k === 'not')
    return { k: 'not', of: conditionTree(text, expression.operand, node.a) };
  return { k: 'condition', text: text.slice(expression.span.from, expression.span.until).trim(), node };
}
