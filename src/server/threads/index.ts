export { isOutOfMemory, LimitedThreads } from './limited';
