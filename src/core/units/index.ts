export { isCelsius, ucumOf, unitAdvice, unitCode, unitOfDifference, unitOfRate, unitWords } from './spelling';
export { conversion, converted, findUnit, sameUnit } from './unit';
export { inUnit, unitFix } from './words';
