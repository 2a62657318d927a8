import type { Fault } from '@/core/fault';
import { seedOfStream } from '@/core/numeric';
import { type CheckedCampaign, type CheckedCase, type CheckedProject, changedCase, orderRun, type RunOrder } from '@/core/project';
import { type Point, pointsOf, type Quantity, variantName } from '@/core/variation';

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

/** Several cases take part as a quantity of their own. */
const caseName = 'case';

/** The runs of a campaign: each of its cases at every point, one case after the other. */
export function campaignRuns(
  project: CheckedProject,
  { cases, quantities, design, seed, seeds }: CheckedCampaign,
): { readonly quantities: readonly Quantity[]; readonly runs: readonly SweptRun[]; readonly faults: readonly Fault[] } {
  const points = pointsOf(design, quantities, seed);
  const swept = cases.map((test, index) => {
    const from: Seeds = seeds === 'same' ? { k: 'same' } : { k: 'one each', from: seedOfStream(seed, firstOfCases + index) };
    return { test, ...sweptRuns(project, test, quantities, points, from) };
  });
  const several = cases.length > 1;
  const runs = swept.flatMap(({ test, runs: own }, index) =>
    own.map((run) => ({ ...run, number: index * points.length + run.number, point: several ? [test.experiment.case, ...run.point] : run.point })),
  );
  const names = cases.map((one) => one.experiment.case);
  return {
    quantities: several ? [{ name: caseName, spread: { k: 'levels', levels: names } }, ...quantities] : quantities,
    runs,
    faults: swept.flatMap((one) => one.faults),
  };
}

/** Seeds of the runs of a case are made apart from those of the points. */
const firstOfCases = 2_000_000;

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
