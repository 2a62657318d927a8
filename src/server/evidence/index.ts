export { type CaseView, readCases, type ScriptLine, type StimulusCourse } from './cases';
export { type Ledger, type LedgerRow, readLedger } from './ledger';
export { writeReport } from './report';
export { type RunDetail, type RunObligation, readRun, readRunOrder } from './run';
