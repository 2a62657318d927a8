import { unitWords } from './spelling';
import { conversion } from './unit';

/** How a signal's unit is told of it: is in m/s, has no unit. */
export function inUnit(unit: string): string {
  return unit === '' ? 'has no unit' : `is in ${unitWords(unit)}`;
}

/** What would bring one unit to the other; the usual mix-ups by name. */
export function unitFix(from: string, to: string, between = 'a component'): string {
  const factor = conversion(from, to);
  if (factor !== undefined) return `change one of the units, or multiply by ${Number(factor.toPrecision(12))} in ${between} between.`;
  const pair = [from, to]
    .map((unit) => unit || '1')
    .sort()
    .join(' ');
  if (pair === '% 1') return `a percentage is not a fraction; divide or multiply by 100 in ${between} between.`;
  if (/(^| )(rad|deg|\{rev\}|\[rpm\])/.test(pair) && /m\/s/.test(pair))
    return `a speed is not an angular speed; multiply or divide by the radius in ${between} between.`;
  return `change one of the units, or convert in ${between} between.`;
}
