export { checkShape } from './check';
export { caseShape, componentShape, loopShape, projectShape, requirementsShape } from './shapes';
export { type Path, type ReadDocument, readYaml } from './yaml';
