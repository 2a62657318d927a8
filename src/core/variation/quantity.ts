import type { Distribution } from './distribution';

export type Level = number | string | boolean;

/** One thing that varies over the runs of a campaign: over levels, or as it scatters. */
export interface Quantity {
  readonly name: string;
  readonly spread: /** Equally likely where they are drawn, unless they have weights. */
    | { readonly k: 'levels'; readonly levels: readonly Level[]; readonly weights?: readonly number[] }
    | { readonly k: 'scatter'; readonly distribution: Distribution };
}

/** The name under which the variant of a loop varies; all other quantities are parameters or start values of states. */
export const variantName = 'variant';
/** A parameter set that a case uses besides its own. */
export const parameterSetName = 'parameter_set';
/** Settings of the solver: solver.step, solver.method, … */
export const solverPrefix = 'solver.';

/** What the quantities are in each run, in their order. */
export type Point = readonly Level[];
