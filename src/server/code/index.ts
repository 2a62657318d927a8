export { type CodeAttempt, CodePool } from './codePool';
export { type RecordedOfCode, recordedOfCode } from './recorded';
