export { type Picture, readPicture } from './svg';
export { attribute, elementsOf, parseXml, placeOf, tag, words } from './xml';
