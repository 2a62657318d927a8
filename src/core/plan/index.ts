export { calculate } from './calculate';
export { cannotFail, neverZero } from './certain';
export { columnOwners, ownColumns } from './columns';
export { type Decision, decisionsOf } from './decisions';
export { evaluate } from './evaluate';
export { groupTasks, type TaskGroup } from './groups';
export { type FixedMethod, fixedMethods, isFixed, type SolverMethod, variableMethods } from './methods';
export { arraysOf, isConstant, nodesOf } from './nodes';
export { integerRange } from './ranges';
export { slotsRead, slotsReadByWork } from './reads';
export type {
  ArrayPlace,
  Assignment,
  Clause,
  Crossing,
  FreeInput,
  InputChange,
  Limited,
  Message,
  Node,
  NumericFunction,
  Plan,
  PlanFunction,
  Queue,
  RegionInfo,
  Site,
  SiteNumber,
  Slot,
  SlotNumber,
  Solver,
  StateTolerance,
  Task,
  TransitionInfo,
  Trusted,
  ValueType,
  Work,
} from './types';
