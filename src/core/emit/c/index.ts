export { library } from './expression';
export { type CProgram, emitRunner, type Stimulus } from './runner';
export { type CUnit, emitCUnit } from './unit';
