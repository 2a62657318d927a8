export { isCelsius, ucumOf, unitAdvice, unitCode, unitOfDifference, unitWords } from './spelling';
export { conversion, converted, findUnit, sameUnit } from './unit';
export { inUnit, unitFix } from './words';
