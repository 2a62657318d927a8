export { type Consistency, type ConsistencyFinding, examineConsistency, type FindingKind, type Involved, type Solve } from './examine';
export { type Scenario, scenarioTrace } from './scenario';
