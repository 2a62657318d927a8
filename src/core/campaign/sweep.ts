import type { Fault } from '@/core/fault';
import { seedOfStream } from '@/core/numeric';
import { type CheckedCase, type CheckedProject, changedCase, orderRun, type RunOrder } from '@/core/project';
import type { Point, Quantity } from '@/core/variation';

/** The name under which a campaign varies the variant of a loop; all other quantities are parameters or start values of states. */
export const variantName = 'variant';

/** One run of a campaign: where it stands in the design, and what is to be made. */
export interface SweptRun {
  /** From 1, in the order of the design. */
  readonly number: number;
  readonly point: Point;
  readonly order: RunOrder;
}

/** With which seeds the runs draw their noise: each its own, made from one, or all that of the case. */
export type Seeds = { readonly k: 'one each'; readonly from: number } | { readonly k: 'same' };

/**
 * The runs of a case over the points of a design. Each is the case as if its document held the point's values, so limits, constraints between parameters
 * and what may not be changed are looked at as they are in a case.
 * @returns the runs, or the faults of the values, each told once
 */
export function sweptRuns(
  project: CheckedProject,
  test: CheckedCase,
  quantities: readonly Quantity[],
  points: readonly Point[],
  seeds: Seeds,
): { readonly runs: readonly SweptRun[]; readonly faults: readonly Fault[] } {
  const faults = new Map<string, Fault>();
  const runs = points.flatMap((point, index): SweptRun[] => {
    const found = changedCase(project, test, valuesOf(quantities, point));
    if ('faults' in found) {
      for (const fault of found.faults) if (faults.size < mostFaults) faults.set(fault.message, fault);
      return [];
    }
    const seed = seeds.k === 'same' ? undefined : seedOfStream(seeds.from, index);
    return [{ number: index + 1, point, order: orderRun(project, found.test, seed) }];
  });
  return { runs, faults: [...faults.values()] };
}

/** Of a thousand values outside the limits the first few tell enough. */
const mostFaults = 20;

/** What a point changes in a case. */
function valuesOf(quantities: readonly Quantity[], point: Point): { values: Map<string, Point[number]>; variant?: string } {
  const values = new Map<string, Point[number]>();
  let variant: string | undefined;
  quantities.forEach(({ name }, index) => {
    const value = point[index] as Point[number];
    if (name === variantName) variant = String(value);
    else values.set(name, value);
  });
  return { values, ...(variant === undefined ? {} : { variant }) };
}
