export { emitExpression, emitNumber, prelude, type Surroundings } from './expression';
export { compileProgram, emitProgram, type MarkSink, type Program, RunFault } from './program';
