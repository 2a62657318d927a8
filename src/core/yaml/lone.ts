import type { Place } from '@/core/fault';
import type { ReadDocument } from './yaml';

/** A text that stands in no file, such as a formula typed into a field, as a document: its places are columns of line 1. */
export function loneText(kind: string, text: string): ReadDocument {
  const at = (offset: number): Place => ({ file: kind, line: 1, column: offset + 1 });
  return { file: kind, value: text, sound: true, place: () => at(0), keyPlace: () => at(0), placesWithin: () => at };
}
