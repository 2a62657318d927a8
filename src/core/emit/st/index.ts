export { emitStructuredText } from './unit';
