export { type CodeAttempt, CodePool } from './codePool';
export { type ReplayOrder, recordedRun } from './recorded';
