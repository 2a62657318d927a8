export {
  type Consistency,
  type ConsistencyFinding,
  examineConsistency,
  type FindingKind,
  type Involved,
  type Scenario,
  type Solve,
} from './examine';
