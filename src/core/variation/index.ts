export { coveringArray } from './covering';
export {
  type Design,
  designNamed,
  designNames,
  evenLevels,
  misfit,
  pointsOf,
  usualDesign,
} from './design';
export { type Distribution, valueAt } from './distribution';
export { type Level, type Point, parameterSetName, type Quantity, solverPrefix, variantName } from './quantity';
export type { Correlation, Restrictions, Rule } from './restrictions';
export { mostSobolDimensions, sobolPoints } from './sobol';
export { latinPoints, randomPoints } from './unitPoints';
