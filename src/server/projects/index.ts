export { type Imported, importFiles } from './import';
export { findProject, listProjects, openRevision, type ProjectHead } from './open';
