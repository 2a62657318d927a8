export { distFolder } from './distFolder';
export { isOutOfMemory, LimitedThreads } from './limited';
export { loadingOptions } from './loading';
export { nodeDigest } from './nodeDigest';
