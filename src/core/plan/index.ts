export { slotsRead } from './reads';
export type {
  Assignment,
  FreeInput,
  Node,
  NumericFunction,
  Plan,
  RegionInfo,
  Site,
  SiteNumber,
  Slot,
  SlotNumber,
  Solver,
  SolverMethod,
  Task,
  ValueType,
  Work,
} from './types';
