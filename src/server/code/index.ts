export { type CodeAttempt, CodePool } from './codePool';
export { type ReplayOrder, recordedOfCode } from './recorded';
