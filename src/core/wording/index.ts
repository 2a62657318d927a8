export { figure, percent, plural, signedFigure } from './numbers';
export { type TimeTick, timeTicks, timeWords } from './times';
