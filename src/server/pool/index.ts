export { RunPool } from './pool';
