export { library } from './expression';
export { emitHostedC, type HostedTask } from './hosted';
export { type CProgram, emitRunner } from './runner';
export { type CUnit, emitCUnit } from './unit';
