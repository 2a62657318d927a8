export type {
  BinaryOperator,
  Comparison,
  Declaration,
  Expression,
  Index,
  LogicOperator,
  RoutineText,
  Span,
  Statement,
  Target,
  TextFault,
  TextUnit,
  TypeText,
} from './ast';
export { largestArray, parseRoutine, parseUnits } from './declarations';
export { printDuration, readDuration } from './duration';
export { allOf, alternativesOf, conjunctsOf, negationOf } from './logic';
export { isIdentifier, nameKey, nearestName } from './names';
export { type Dialect, describe, Parser, parseExpression, reserved as reservedWords } from './parser';
export { printExpression } from './printer';
export { parseStatements } from './statements';
