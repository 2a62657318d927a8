export { conversion, converted, findUnit, sameUnit } from './unit';
export { inUnit, unitFix } from './words';
