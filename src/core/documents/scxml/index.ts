export { messageName } from './names';
export { type ReadScxml, readScxml } from './read';
