export { distFolder } from './distFolder';
export { LimitedThreads } from './limited';
export { nodeDigest } from './nodeDigest';
export { isOutOfMemory, openThreads } from './open';
