export { emitExpression, prelude } from './expression';
export { helperLetters, localLetters, numberedLetters, programLetters } from './letters';
export { compileProgram, type MarkSink, nobody, type Program, RunFault, type ShortLog } from './program';
export { emitProgram, type ProgramTexts } from './text';
