export { emitExpression, prelude } from './expression';
export { compileProgram, type Program, RunFault, type ShortLog } from './program';
export type { ProgramTexts } from './text';
