export { addBehaviour } from './behaviour';
export { parameterNames, scopeOf } from './equations';
export { checkFaceNames, type InputPort, type Instance, instantiate, type OutputPort, slotNode } from './instance';
export { type Element, elementGroups, elementNames, elements } from './network/elements';
export { NetworkExpansion } from './network/network';
export { checkNetworkUnits } from './network/networkUnits';
export { parameterValues } from './parameters';
export { columnCourse, columnFor, openRecording } from './recording';
