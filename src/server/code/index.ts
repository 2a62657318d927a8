export { type CodeAttempt, CodePool } from './codePool';
