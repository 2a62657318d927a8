export { readFolder } from './read';
