export { messageName } from './names';
export { ownNamespace, type ReadScxml, readScxml } from './read';
