import { loneText } from '../document';
import { Faults } from '../fault';
import { type AssembledLoop, FormulaText, typeExpression } from '../model';
import type { Node } from '../plan';

/** A condition typed at the desk, bound to the signals of its loop; what is wrong with it, as one sentence. */
export function conditionOf(text: string, { catalogue }: AssembledLoop): Node | string {
  const faults = new Faults();
  const formula = new FormulaText(loneText('condition', text), [], text, faults);
  const expression = formula.expression();
  const node =
    expression &&
    typeExpression(expression, 'BOOL', formula, {
      find: (name) => catalogue.find(name),
      names: () => catalogue.names(),
      excuses: () => false,
      site: () => 0,
    });
  const [first] = faults.all();
  if (first) return `${first.message} ${first.mend}`;
  return node ?? 'This is no condition.';
}
