export { coveringArray } from './covering';
export {
  type Design,
  designNamed,
  designNames,
  evenLevels,
  type Level,
  misfit,
  type Point,
  parameterSetName,
  pointsOf,
  type Quantity,
  solverPrefix,
  usualDesign,
  variantName,
} from './design';
export { type Distribution, valueAt } from './distribution';
export type { Correlation, Restrictions, Rule } from './restrictions';
export { mostSobolDimensions, sobolPoints } from './sobol';
export { latinPoints, randomPoints } from './unitPoints';
