export { isOutOfMemory, LimitedThreads } from './limited';
export { loadingOptions } from './loading';
