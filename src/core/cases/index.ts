export { prepareExperiment } from './experiment';
