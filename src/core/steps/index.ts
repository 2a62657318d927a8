export { runSteps, type Steps } from './steps';
