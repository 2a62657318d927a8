export { calculate } from './calculate';
export { cannotFail, neverZero } from './certain';
export { columnOwners, ownColumns } from './columns';
export { conditionsIn, countersOf, decisionsOf, numberedDecisions, type WrittenDecision } from './decisions';
export { evaluate } from './evaluate';
export { groupTasks, type TaskGroup } from './groups';
export { hostedPlaces, hostedRoom, mostMarks, mostSent } from './hosted';
export {
  any,
  arithmetic,
  assign,
  both,
  call,
  comparison,
  constant,
  hitNumber,
  holds,
  logic,
  minus,
  negative,
  not,
  plus,
  size,
  slotValue,
  taskTime,
  when,
  widened,
} from './make';
export { type FixedMethod, fixedMethods, isFixed, type SolverMethod, variableMethods } from './methods';
export { arraysOf, isConstant, nodesOf, operandsOf } from './nodes';
export { isNumericFunction, type NumericFunction, numericFunctionNames, numericFunctions } from './numericFunctions';
export { integerRange } from './ranges';
export { slotsRead, slotsReadByWork, slotsWritten } from './reads';
export {
  type ArrayPlace,
  type Assignment,
  type Clause,
  type ConditionTree,
  type Crossing,
  type DecisionInfo,
  type Delay,
  type Enumeration,
  type FaceInfo,
  type FreeInput,
  type HostedWork,
  type InputChange,
  type Limited,
  type Message,
  type Node,
  type Plan,
  type PlanFunction,
  type PlanUnit,
  type PositionInfo,
  type Queue,
  type Site,
  type SiteNumber,
  type Slot,
  type SlotNumber,
  type Solver,
  type StateTolerance,
  type Task,
  type TransitionInfo,
  type Trusted,
  type UnitPin,
  type ValueType,
  valueTypes,
  type Work,
} from './types';
