export { aloneLoop } from './alone';
export { Catalogue, type CatalogueEntry, type Role } from './catalogue';
export { checkComponents } from './components';
export { conditionNode } from './condition';
export { checkConstraints } from './constraints';
export { type AssembledLoop, assembleLoop } from './loop';
