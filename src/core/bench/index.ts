export { answerOf, ModelAnswer } from './answer';
export { type Channel, countOf, fromCount, resolution } from './channel';
export { channelFaultKinds, heldFault, Lane } from './channelFaults';
export { type BenchExperiment, type BenchSlots, benchExperiment, benchSteps, faultSets } from './experiment';
export { type ChannelWish, headerOf, type PackageHeader } from './header';
export { benchDocument } from './sheetDocument';
export { Stopwatch } from './timing';
export { proposedSheet, type Wiring, type WiringFault, wiringOf } from './wiring';
