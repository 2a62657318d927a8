import type { Fault } from '@/core/fault';
import { seedOfStream } from '@/core/numeric';
import {
  type CheckedCampaign,
  type CheckedCase,
  type CheckedProject,
  changedCase,
  criterionInCase,
  type Measured,
  orderRun,
  type RunOrder,
  rawChanges,
  type StopRule,
  type WantedFigure,
} from '@/core/project';
import type { Stage } from '@/core/shapes';
import { type Level, type Point, pointsOf, type Quantity, variantName } from '@/core/variation';
import type { IntervalKind } from './found';
import { ofMeasure, type WatchedCriterion } from './table';

/** One run of a campaign: where it stands in the design, and what is to be made. */
export interface SweptRun {
  /** From 1, in the order of the design. */
  readonly number: number;
  readonly point: Point;
  readonly order: RunOrder;
}

/** With which seeds the runs draw their noise: each its own, made from one, or all that of the case. */
export type Seeds = { readonly k: 'one each'; readonly from: number } | { readonly k: 'same' };

/** A case at the points of a design. */
interface Swept {
  readonly test: CheckedCase;
  readonly seeds: Seeds;
}

/** Several cases take part as a quantity of their own. */
const caseName = 'case';

/** Seeds of the runs of a case are made apart from those of the points. */
const firstOfCases = 2_000_000;

/** Of a thousand values outside the limits the first few tell enough. */
const mostFaults = 20;

/**
 * The runs of a campaign, each made where it is asked for: of a hundred thousand nobody holds all orders at once. Each is the case as if its document held the point's values,
 * so limits, constraints between parameters and what may not be changed are looked at as they are in a case.
 */
export class LaidCampaign {
  /** With the case as the first quantity where there are several. */
  readonly quantities: readonly Quantity[];
  /** How many runs there are: each case at every point, one case after the other. */
  readonly total: number;
  private known: readonly WatchedCriterion[] | undefined;

  constructor(
    private readonly project: CheckedProject,
    private readonly cases: readonly Swept[],
    private readonly varied: readonly Quantity[],
    private readonly points: readonly Point[],
    /** The interval that the share of failing runs has once all are made. */
    readonly interval: IntervalKind,
    readonly stop: StopRule = { k: 'all' },
    private readonly measures: readonly Measured[] = [],
    /** Where the runs are made; their orders are those of the model. */
    readonly stage: Stage = 'model',
  ) {
    const names = cases.map(({ test }) => test.experiment.case);
    this.quantities = cases.length > 1 ? [{ name: caseName, spread: { k: 'levels', levels: names } }, ...varied] : varied;
    this.total = cases.length * points.length;
  }

  /** Where a run stands in the design. @param number from 1 */
  pointOf(number: number): Point {
    const { swept, point } = this.at(number);
    return this.cases.length > 1 ? [swept.test.experiment.case, ...point] : point;
  }

  /** The case of a run as its document has it. */
  caseOf(number: number): CheckedCase {
    return this.at(number).swept.test;
  }

  /** What a run changes in its case: values by name, the variant, and the seed where it has one of its own. */
  changesOf(number: number): { readonly values: ReadonlyMap<string, Level>; readonly variant?: string; readonly seed?: number } {
    const { swept, point, index } = this.at(number);
    const values = new Map<string, Level>();
    let variant: string | undefined;
    this.varied.forEach(({ name }, at) => {
      const value = point[at] as Level;
      if (name === variantName) variant = String(value);
      else values.set(name, value);
    });
    const seed = swept.seeds.k === 'same' ? undefined : seedOfStream(swept.seeds.from, index);
    return { values, ...(variant === undefined ? {} : { variant }), ...(seed === undefined ? {} : { seed }) };
  }

  /** What a run changes, as the document of a case says it. */
  rawChangesOf(number: number): ReturnType<typeof rawChanges> {
    return rawChanges(this.project.loops, this.caseOf(number), this.changesOf(number));
  }

  /** The case of a run as its document has it. */
  nominalOrder(number = 1): RunOrder {
    return orderRun(this.project, this.caseOf(number));
  }

  /** A run, or what is wrong with its values. */
  runOf(number: number): SweptRun | { readonly faults: readonly Fault[] } {
    const { test } = this.at(number).swept;
    const { seed, ...changes } = this.changesOf(number);
    const found = changedCase(this.project, test, changes);
    if ('faults' in found) return found;
    const order = orderRun(this.project, found.test, seed);
    const measured = this.measures.flatMap(({ name, inLoop }): WantedFigure[] => {
      const own = inLoop.get(found.test.loop);
      if (own?.k !== 'criterion') return own ? [{ name, figure: own }] : [];
      const criterion = criterionInCase(this.project, found.test, own.sentence, own.criterion);
      return [{ name, figure: { ...own, criterion } }];
    });
    return { number, point: this.pointOf(number), order: this.measures.length > 0 ? { ...order, measured } : order };
  }

  /** The runs from one number up to before another, and what is wrong with their values, each told once. */
  runs(from = 1, until = this.total + 1): { readonly runs: readonly SweptRun[]; readonly faults: readonly Fault[] } {
    const faults = new Map<string, Fault>();
    const runs: SweptRun[] = [];
    for (let number = from; number < until; number += 1) {
      const found = this.runOf(number);
      if (!('faults' in found)) runs.push(found);
      else for (const fault of found.faults) if (faults.size < mostFaults) faults.set(fault.message, fault);
    }
    return { runs, faults: [...faults.values()] };
  }

  /** What the table of the runs holds: the criteria that any of them watches, for cases and variants may be of several loops, and then the measures. */
  get columns(): readonly WatchedCriterion[] {
    this.known ??= [...this.lookUpWatched(), ...this.measures.map(({ name }) => ({ requirement: ofMeasure, name }))];
    return this.known;
  }

  /** Names of the measures that say whether the loop is stable. */
  get growing(): ReadonlySet<string> {
    return new Set(this.measures.filter(({ inLoop }) => [...inLoop.values()].some((one) => one.k !== 'criterion')).map(({ name }) => name));
  }

  private lookUpWatched(): WatchedCriterion[] {
    const all = new Map<string, WatchedCriterion>();
    for (const { test } of this.cases)
      for (const variant of this.variants()) {
        const found = variant === undefined ? { test } : changedCase(this.project, test, { values: new Map(), variant });
        if ('faults' in found) continue;
        for (const { requirement, name } of orderRun(this.project, found.test).watched)
          all.set(JSON.stringify([requirement, name]), { requirement, name });
      }
    return [...all.values()];
  }

  private variants(): readonly (string | undefined)[] {
    const spread = this.varied.find((one) => one.name === variantName)?.spread;
    return spread?.k === 'levels' ? spread.levels.map(String) : [undefined];
  }

  private at(number: number): { readonly swept: Swept; readonly point: Point; readonly index: number } {
    const index = (number - 1) % this.points.length;
    const swept = this.cases[Math.floor((number - 1) / this.points.length)];
    const point = this.points[index];
    if (!swept || !point) throw new RangeError(`there is no run ${number}`);
    return { swept, point, index };
  }
}

/** One case at the points of a design, without a document. */
export function laidSweep(
  project: CheckedProject,
  test: CheckedCase,
  quantities: readonly Quantity[],
  points: readonly Point[],
  seeds: Seeds,
  interval: IntervalKind,
  measures: readonly Measured[] = [],
  stage: Stage = 'model',
): LaidCampaign {
  return new LaidCampaign(project, [{ test, seeds }], quantities, points, interval, { k: 'all' }, measures, stage);
}

/** The runs of a campaign document. They follow from it and its seed alone. */
export function laidCampaign(
  project: CheckedProject,
  { cases, quantities, restrictions, design, seed, seeds, stop, measures, stage }: CheckedCampaign,
): LaidCampaign {
  const swept = cases.map(
    (test, index): Swept => ({ test, seeds: seeds === 'same' ? { k: 'same' } : { k: 'one each', from: seedOfStream(seed, firstOfCases + index) } }),
  );
  // The points are the same for each of several cases, so that their runs depend on each other.
  const isDrawn = design.k === 'random' && cases.length === 1;
  const interval = !isDrawn ? 'none' : stop.k === 'all' ? 'exact' : 'anytime';
  return new LaidCampaign(project, swept, quantities, pointsOf(design, quantities, seed, restrictions), interval, stop, measures, stage);
}
