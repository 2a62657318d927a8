export { type CompareSettings, compareTraces, type SignalComparison, type TraceComparison } from './compare';
export { type DrawnPair, drawnPair } from './drawn';
export { type Band, gapOf } from './figures';
export { signalOf, valueAt } from './pieces';
export { type Answered, probe, probeWords } from './probe';
export { trustedLoop } from './trust';
