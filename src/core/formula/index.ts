export { PlanBuilder } from './builder';
export { type Definitions, definitionsOf } from './definitions';
export { Formula, Formula as FormulaText } from './formula';
export { checkFunctions, userFunctions } from './functions';
export { type Invocation, lowerStatements, plainStatementScope, type StatementScope, type Variable } from './statements';
export { TypeLibrary } from './typeLibrary';
export { type Found, type Scope, typeExpression, typeFormula, widens } from './typing';
export { type Declared, declare, readTime, readValue } from './values';
export { Variables } from './variables';
