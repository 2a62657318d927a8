import type { Faults, Place } from '@/core/fault';
import { enumerationSuits, kindWords } from '@/core/formula';
import { nameKey } from '@/core/language';
import type { Named, Scalar, Tuning } from '@/core/shapes';
import { inUnit, sameUnit, unitFix } from '@/core/units';
import type { Instance, OutputPort } from '../instance';

/** The parameters of a part (by `nameKey`) that are given by the name of a parameter of the network: each is that one. */
export function boundParameters(network: Instance, given: Named<Scalar>): ReadonlyMap<string, OutputPort> {
  return new Map(
    Object.entries(given).flatMap(([name, value]) => {
      const source = typeof value === 'string' ? network.parameters.get(nameKey(value)) : undefined;
      return source ? [[nameKey(name), source] as const] : [];
    }),
  );
}

/**
 * Whether a parameter of a network may be that of a part: one value, whichever of its two names is meant. It has to suit whatever value the other may take; what does not is told.
 * @param anyUnit the part is an element, which takes a value of any unit
 */
export function checkBound(
  { part, network, anyUnit }: { readonly part: Instance; readonly network: Instance; readonly anyUnit: boolean },
  [name, source]: readonly [string, OutputPort],
  place: Place,
  faults: Faults,
): void {
  const own = part.parameters.get(nameKey(name));
  if (!own) return;
  if (own.type !== source.type || !enumerationSuits(source, own))
    faults.add('type', place, `${source.name} is ${kindWords(source)}, but ${own.name} is ${kindWords(own)}.`, 'Change one of the two types.');
  else if (!anyUnit && !sameUnit(source.unit, own.unit))
    faults.add('unit', place, `${source.name} ${inUnit(source.unit)}, but ${own.name} ${inUnit(own.unit)}.`, unitFix(source.unit, own.unit));
  else if (leaves(source, own))
    faults.add(
      'outside-limits',
      place,
      `${source.name} may be ${spanWords(source)}, but ${own.name} only ${spanWords(own)}.`,
      `Narrow the limits of ${source.name}.`,
    );
  else if (tuningOf(part, own) === 'fixed' && tuningOf(network, source) !== 'fixed')
    faults.add('type', place, `${own.name} is fixed, but ${source.name} may be changed.`, `Mark ${source.name} as tuning: fixed.`);
}

function tuningOf({ name, component }: Instance, port: OutputPort): Tuning | undefined {
  return component.raw.parameters?.[port.name.slice(name.length + 1)]?.tuning;
}

function leaves(source: OutputPort, own: OutputPort): boolean {
  const { min: low = Number.NEGATIVE_INFINITY, max: high = Number.POSITIVE_INFINITY } = source;
  return (own.min !== undefined && low < own.min) || (own.max !== undefined && high > own.max);
}

function spanWords({ min, max, unit }: OutputPort): string {
  const behind = unit ? ` ${unit}` : '';
  if (min !== undefined && max !== undefined) return `${min} … ${max}${behind}`;
  if (min !== undefined) return `from ${min}${behind} on`;
  return max === undefined ? 'anything' : `up to ${max}${behind}`;
}
