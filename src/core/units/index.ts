export { conversion, findUnit, sameUnit } from './unit';
