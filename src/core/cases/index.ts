export { drawnCourse } from './drawnCourse';
export { prepareExperiment } from './experiment';
export { type Handle, handlesOf, withMoved, withoutPiece, withStep } from './handles';
export { type ScriptLine, scriptLines } from './scriptLines';
