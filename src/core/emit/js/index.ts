export { emitExpression, prelude, type Surroundings } from './expression';
export { compileProgram, type MarkSink, type Program, RunFault } from './program';
