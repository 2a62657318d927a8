export { onProgress } from './progress';
