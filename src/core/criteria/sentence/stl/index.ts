export { type FormulaAsSentence, sentenceOfStl } from './asSentence';
export { looksLikeStl, NotStl } from './read';
