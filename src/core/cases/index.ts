export { drawnCourse } from './drawnCourse';
export { prepareExperiment } from './experiment';
export { type ScriptLine, scriptLines } from './scriptLines';
