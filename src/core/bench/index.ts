export { answerOf, ModelAnswer } from './answer';
export { brokenCount, type Channel, countOf, fromCount, resolution } from './channel';
export { channelFaultKinds, heldFault, Lane } from './channelFaults';
export { type BenchExperiment, type BenchSetup, type BenchSlots, benchExperiment, benchSteps, faultSets } from './experiment';
export { type ChannelWish, headerOf, type PackageHeader, pinRefusal, refusals } from './header';
export { type CsvFault, sheetCsv, sheetFromCsv } from './sheetCsv';
export { benchDocument } from './sheetDocument';
export { Stopwatch } from './timing';
export { proposedSheet, type Wiring, type WiringFault, wiringOf } from './wiring';
