import { Faults } from '@/core/fault';
import { FormulaText } from '@/core/formula';
import { type AssembledLoop, conditionNode } from '@/core/loop';
import type { Node } from '@/core/plan';
import { loneText } from '@/core/yaml';

/** A condition typed at the desk, bound to the signals of its loop; what is wrong with it, as one sentence. */
export function conditionOf(text: string, { catalogue }: AssembledLoop): Node | string {
  const faults = new Faults();
  const node = conditionNode(new FormulaText(loneText('condition', text), [], text, faults), catalogue);
  const [first] = faults.all();
  if (first) return `${first.message} ${first.fix}`;
  return node ?? 'This is not a condition.';
}
