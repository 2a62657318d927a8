export { openSolver, type Solver } from './solver';
