export { type Consistency, type ConsistencyFinding, examineConsistency, type Solve } from './examine';
export { CriterionQuestion } from './meaning';
export { lasting, outcomeIn, type Scenario, scenarioTrace } from './scenario';
export { Surroundings } from './smt';
