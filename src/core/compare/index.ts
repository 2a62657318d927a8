export { type CompareSettings, compareTraces, type Kind, type SignalComparison, type TraceComparison } from './compare';
export { type Answered, type Push, probe, probeWords } from './probe';
export { curveOf } from './sample';
export { trustedLoop } from './trust';
