export { NoCounterpart } from './expression';
export { emitScxml } from './write';
