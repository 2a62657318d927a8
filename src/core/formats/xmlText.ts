const marks: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\t': '&#9;', '\n': '&#10;', '\r': '&#13;' };

/** Characters that no XML 1.0 document can hold, however they are written. */
const impossible = /[^\t\n\r\x20-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu;

/** A text as XML 1.0 can hold it: what it cannot stands as �. */
export function possibleInXml(text: string): string {
  return text.replace(impossible, '\uFFFD');
}

/** A text written in XML 1.0, in an element or an attribute. */
export function xmlText(text: string): string {
  return possibleInXml(text).replace(/[&<>"\t\n\r]/g, (mark) => marks[mark] as string);
}
