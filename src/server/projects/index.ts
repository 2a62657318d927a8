export { readRequirementsVersions } from './history';
export { type Imported, type ImportOrder, importFiles, type Refusal, saveFiles } from './import';
export { findProject, findProjectByName, findRevision, listProjects, openRevision, type ProjectHead, readFiles } from './open';
