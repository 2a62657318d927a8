export { BenchQueue, benchKey } from './benchQueue';
export { type Holder, holderOf, tryReserve } from './reservation';
