export { BenchQueue } from './benchQueue';
export { checkBench } from './check';
export { type LiveAct, liveSession, startLive } from './live';
export { PlayedShadow, type PlayedStatus } from './played';
export { holderOf } from './reservation';
