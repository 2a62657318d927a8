import { LineCounter } from 'yaml';
import type { ReadDocument } from './yaml';

/** A document that is not YAML but one text, such as a file of Structured Text: every place is an offset in it. */
export function readText(file: string, text: string): ReadDocument {
  const lines = new LineCounter();
  lines.lineStarts.push(0);
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) lines.lineStarts.push(at + 1);
  const placeAt = (offset: number) => {
    const { line, col } = lines.linePos(offset);
    return { file, line: Math.max(1, line), column: Math.max(1, col) };
  };
  return { file, value: text, sound: true, place: () => placeAt(0), keyPlace: () => placeAt(0), placesWithin: () => placeAt };
}
