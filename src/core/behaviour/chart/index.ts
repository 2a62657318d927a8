export { addChart } from './read';
