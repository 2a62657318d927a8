export type { BinaryOperator, Comparison, Expression, LogicOperator, Span, Statement, TextFault } from './ast';
export { printDuration, readDuration } from './duration';
export { isIdentifier, nameKey, nearestName } from './names';
export { type Dialect, describe, Parser, parseExpression, parseStatements } from './parser';
export { printExpression } from './printer';
