export { RunPool } from './pool';
export type { Ran } from './types';
