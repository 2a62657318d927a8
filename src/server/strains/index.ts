export { deriveInThreads } from './derive';
