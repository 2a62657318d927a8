export { glossary } from './glossary';
export { type Distance, marginWords, shortfallWords } from './margins';
export { figure, figures, percent, plural, sentenceOf, signedFigure } from './numbers';
export { type TimeTick, timeTicks, timeWords } from './times';
