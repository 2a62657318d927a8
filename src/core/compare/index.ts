export { type CompareSettings, compareTraces, type Kind, type SignalComparison, type TraceComparison } from './compare';
export { type DrawnPair, drawnPair } from './drawn';
export { type Signal, signalOf, valueAt } from './pieces';
export { type Answered, type Push, probe, probeWords } from './probe';
export { trustedLoop } from './trust';
