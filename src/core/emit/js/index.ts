export type { Surroundings } from '../surroundings';
export { emitExpression, prelude } from './expression';
export { compileProgram, type MarkSink, type Program, RunFault } from './program';
export { strideOfRecent } from './text';
