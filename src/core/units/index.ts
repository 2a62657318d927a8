export { conversion, converted, findUnit, sameUnit } from './unit';
