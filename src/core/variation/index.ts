export { coveringArray } from './covering';
export {
  type Design,
  designNamed,
  designNames,
  evenLevels,
  type Level,
  misfit,
  type Point,
  pointsOf,
  type Quantity,
  usualDesign,
  variantName,
} from './design';
export { type Distribution, valueAt } from './distribution';
export { mostSobolDimensions, sobolPoints } from './sobol';
export { latinPoints, randomPoints } from './unitPoints';
