export { type CompareSettings, compareTraces, type Kind, type SignalComparison, type TraceComparison } from './compare';
export { curveOf } from './sample';
export { trustedLoop } from './trust';
