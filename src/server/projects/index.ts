export { readRequirementsVersions } from './history';
export { type Imported, importFiles, saveFiles, slugOf } from './import';
export { findProject, listProjects, openRevision, type ProjectHead, readFiles } from './open';
