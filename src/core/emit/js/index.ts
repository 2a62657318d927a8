export type { Surroundings } from '../surroundings';
export { emitExpression, prelude } from './expression';
export { compileProgram, type MarkSink, type Program, RunFault, type ShortLog } from './program';
export type { ProgramTexts } from './text';
