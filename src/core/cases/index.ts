export { drawnCourse } from './drawnCourse';
export { prepareExperiment } from './experiment';
