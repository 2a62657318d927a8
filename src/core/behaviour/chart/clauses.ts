import type { Expression } from '@/core/language';
import type { Clause, Node } from '@/core/plan';

/** The parts of a guard that must all be TRUE, each with its text: what stands between the outermost ANDs. */
export function clausesOf(text: string, expression: Expression, node: Node): Clause[] {
  if (expression.kind === 'binary' && expression.operator === 'AND' && node.k === 'logic' && node.operator === 'AND')
    return [...clausesOf(text, expression.left, node.a), ...clausesOf(text, expression.right, node.b)];
  return [{ text: text.slice(expression.span.from, expression.span.until).trim(), node }];
}
