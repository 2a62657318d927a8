export { messageName } from './names';
export { readScxml } from './read';
