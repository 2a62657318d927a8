export { type DocumentClash, type MergedDocuments, mergeDocuments } from './documents';
export { type Clash, clashesOf, mergeLines, type Piece, settledText } from './lines';
