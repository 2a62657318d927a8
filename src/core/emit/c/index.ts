export { library } from './expression';
export { type CProgram, emitRunner } from './runner';
export { emitCUnit } from './unit';
