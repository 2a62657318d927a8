import { type Formula, typeExpression } from '@/core/formula';
import type { Node } from '@/core/plan';
import type { Catalogue } from './catalogue/catalogue';

/** A condition over the signals of a loop; what is wrong with it is told through the formula. */
export function conditionNode(formula: Formula, catalogue: Catalogue): Node | undefined {
  const expression = formula.expression();
  return (
    expression &&
    typeExpression(expression, 'BOOL', formula, {
      find: (name) => catalogue.find(name),
      names: () => catalogue.names(),
      excuses: (path) => catalogue.excuses(path),
      site: () => 0,
    })
  );
}
