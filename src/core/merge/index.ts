export { type DocumentClash, mergeDocuments } from './documents';
export { type Clash, clashesOf, mergeLines, type Piece, settledText } from './lines';
