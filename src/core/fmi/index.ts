export { type FmiUnit, type FmiVariable, openedUnit, type UnitProblem } from './archive';
export { importedUnit } from './component';
export { kindsOf, type PinKind } from './kinds';
