export { BenchQueue, benchKey } from './benchQueue';
export { checkBench } from './check';
export { type LiveAct, liveSession, startLive } from './live';
export { type Holder, holderOf } from './reservation';
