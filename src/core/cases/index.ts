export { drawnCourse } from './drawnCourse';
export { prepareExperiment } from './experiment';
export { type Handle, handlesOf, withMoved, withoutPiece, withStep, withValues } from './handles';
export { type CasePart, casePart, caseParts, withParts } from './parts';
export { withRecorded } from './recorded';
export { type ScriptLine, scriptLines } from './scriptLines';
export { loopOfCase } from './wireFaults';
