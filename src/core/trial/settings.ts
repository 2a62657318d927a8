import { fixedMethods, isFixed, type Plan, type Solver, type SolverMethod, type StateTolerance, variableMethods } from '@/core/plan';

/** How a loop is solved: what a solver trial varies, and what can be taken over into the loop. */
export interface SolverSetting {
  readonly method: SolverMethod;
  /** Fixed methods: the step; variable methods: the largest step. Nanoseconds. */
  readonly stepNs: number;
  readonly relativeTolerance: number;
  readonly absoluteTolerance: number;
  /** Variable methods: states held to tolerances of their own. */
  readonly ofStates?: readonly StateTolerance[] | undefined;
}

const tolerances = [1e-3, 1e-4, 1e-5, 1e-6, 1e-8];
const divisions = [1, 2, 4, 10];
/** So many instants at most are compared. */
const mostInstants = 2_000;

/** The setting a loop has now. */
export function presentSetting({ method, stepNs, relativeTolerance, absoluteTolerance, ofStates }: Solver): SolverSetting {
  return { method, stepNs, relativeTolerance, absoluteTolerance, ...(ofStates ? { ofStates } : {}) };
}

/** Unequal settings: each method of variable step over tolerances (absolute a hundredth of relative), each of fixed step over steps that divide all periods; the present one first. */
export function trialGrid(plan: Plan): SolverSetting[] {
  const { solver } = plan;
  const unit = unitOf(plan);
  const largest = isFixed(solver.method) ? unit : solver.stepNs;
  const variable = variableMethods.flatMap((method) =>
    tolerances.map((relative) => ({
      method,
      stepNs: largest,
      relativeTolerance: relative,
      absoluteTolerance: relative / 100,
      ...inProportion(solver, relative),
    })),
  );
  const { relativeTolerance, absoluteTolerance } = solver;
  const steps = divisions.flatMap((division) => (unit % division === 0 ? [unit / division] : []));
  const fixed = fixedMethods.flatMap((method) => steps.map((stepNs) => ({ method, stepNs, relativeTolerance, absoluteTolerance })));
  const present = presentSetting(solver);
  return [present, ...[...variable, ...fixed].filter((one) => !sameSetting(one, present))];
}

/** Tolerances of single states follow the one of all. */
function inProportion({ ofStates, relativeTolerance }: Solver, wanted: number): Pick<SolverSetting, 'ofStates'> {
  const scaled = (tolerance: number | undefined): number | undefined =>
    tolerance && Number(((tolerance * wanted) / relativeTolerance).toPrecision(6));
  return ofStates
    ? { ofStates: ofStates.map(({ state, relative, absolute }) => ({ state, relative: scaled(relative), absolute: scaled(absolute) })) }
    : {};
}

/** Tolerances mean nothing to a method of fixed step. */
export function sameSetting(a: SolverSetting, b: SolverSetting): boolean {
  const fixed = isFixed(a.method);
  return (
    a.method === b.method &&
    a.stepNs === b.stepNs &&
    (fixed || (a.relativeTolerance === b.relativeTolerance && a.absoluteTolerance === b.absoluteTolerance))
  );
}

/** What all runs of a trial are held against. */
export function referenceSetting(plan: Plan, method: SolverMethod): SolverSetting {
  return { method, stepNs: unitOf(plan), relativeTolerance: 1e-10, absoluteTolerance: 1e-12 };
}

/** The plan solved otherwise, with a row at every instant that is compared. */
export function solvedBy(plan: Plan, setting: SolverSetting): Plan {
  return { ...plan, solver: { ...setting, recordEveryNs: isFixed(setting.method) ? 0 : unitOf(plan) } };
}

/** Instants (s) that every run of a trial has a row at: multiples of the shortest stretch between hits. */
export function comparedInstants(plan: Plan, stopNs: number): number[] {
  const unit = unitOf(plan);
  const each = unit * Math.max(1, Math.ceil(stopNs / unit / mostInstants));
  return Array.from({ length: Math.floor(stopNs / each) + 1 }, (_, index) => (index * each) / 1e9);
}

/** The greatest time that divides all periods and offsets; without tasks the present fixed step, or a thousandth of the run. */
function unitOf({ tasks, solver, stopNs }: Plan): number {
  const times = tasks.flatMap(({ periodNs, offsetNs }) => [periodNs, offsetNs]);
  const common = times.reduce(greatestCommon, 0);
  if (common > 0) return common;
  return isFixed(solver.method) ? solver.stepNs : Math.max(1, Math.round(stopNs / 1000));
}

function greatestCommon(a: number, b: number): number {
  return b === 0 ? a : greatestCommon(b, a % b);
}
