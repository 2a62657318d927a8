export { aloneLoop } from './alone';
export { Catalogue, type CatalogueEntry, type Role } from './catalogue/catalogue';
export { checkComponents } from './components';
export { conditionNode } from './condition';
export { checkConstraints } from './constraints';
export { type FaultSlots, type FaultyEnd, faultKinds, isReal, timesOfEnd, type WireEnd } from './faultyWires';
export { type AssembledLoop, assembleLoop, type FaultyLoop } from './loop';
