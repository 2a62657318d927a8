export { glossary } from './glossary';
export { marginWords, shortfallWords } from './margins';
export { figure, figures, percent, plural, sentenceOf, signedFigure } from './numbers';
export { timeTicks, timeWords } from './times';
