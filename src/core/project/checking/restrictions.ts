import type { CampaignDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { FormulaText } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { Catalogue, conditionNode } from '@/core/loop';
import { evaluate, slotsRead } from '@/core/plan';
import type { Quantity, Restrictions } from '@/core/variation';

/** What the points of a campaign keep to: which quantities go together, and conditions between them. */
export function restrictionsOf({ document, raw }: CampaignDocument, quantities: readonly Quantity[], faults: Faults): Restrictions {
  const names = quantities.map((one) => one.name);
  const correlations = (raw.correlated ?? []).flatMap(({ between, by }, index) => {
    const found = between.map((name, at) => {
      const number = names.findIndex((one) => nameKey(one) === nameKey(name));
      if (number >= 0) return number;
      const near = nearestName(name, names);
      const fix = near ? `Did you mean "${near}"?` : 'Name two of those under vary:.';
      faults.add('unknown-name', document.place(['correlated', index, 'between', at]), `"${name}" does not vary in this campaign.`, fix);
      return undefined;
    });
    const [first, second] = found;
    if (first === undefined || second === undefined) return [];
    const place = document.place(['correlated', index]);
    if (first === second) faults.add('shape', place, `${names[first]} cannot go with itself.`, 'Name two quantities.');
    else if (!(by > -1 && by < 1))
      faults.add('outside-limits', place, `A correlation lies between -1 and 1, without them; ${by} does not.`, 'Write for example by: 0.8.');
    else return [{ between: [first, second] as const, by }];
    return [];
  });
  return { correlations, rules: rulesOf({ document, raw }, quantities, faults) };
}

function rulesOf({ document, raw }: CampaignDocument, quantities: readonly Quantity[], faults: Faults): Restrictions['rules'] {
  const catalogue = new Catalogue();
  quantities.forEach(({ name, spread }, slot) => {
    const levels = spread.k === 'levels' ? spread.levels : [];
    if (levels.some((level) => typeof level === 'string')) return;
    const type = levels.length > 0 && levels.every((level) => typeof level === 'boolean') ? 'BOOL' : 'LREAL';
    catalogue.add({ name, slot, type, unit: '', role: 'parameter', about: '' });
  });
  return (raw.constraints ?? []).flatMap((text, index) => {
    const node = conditionNode(new FormulaText(document, ['constraints', index], text, faults), catalogue);
    if (!node) return [];
    const columns = [...slotsRead(node)];
    return [{ columns, allows: (point) => evaluate(node, (slot) => Number(point[slot])) === 1 }];
  });
}
