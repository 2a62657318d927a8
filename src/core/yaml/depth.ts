import { type CST, type Document, Parser, parseDocument } from 'yaml';

/** Levels of lists and mappings, and brackets within them, that a document may have. */
export const deepest = 400;

/**
 * Whether a document is nested too deeply to be read. It has to be told before it is read: the library goes down by calls of functions, and an engine that comes to the
 * end of its stack in the middle of a regular expression ends the whole process.
 */
export function isTooDeep(text: string): boolean {
  return looksDeep(text) && depthOf(text) > deepest;
}

/** A cheap look. Brackets in quotes are counted once with the others and once not at all: either way may hide some. */
function looksDeep(text: string): boolean {
  if (/^ {100}|(?:[-?:][ \t]+){20}/m.test(text)) return true;
  return bracketsOpen(text) > suspicious || bracketsOpen(text.replace(/"(?:[^"\\]|\\.)*"|'(?:[^']|'')*'/g, '')) > suspicious;
}

const suspicious = deepest / 4;

/** The most brackets that are open at once. */
function bracketsOpen(text: string): number {
  let [depth, most] = [0, 0];
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    if (code === openBracket || code === openBrace) {
      depth += 1;
      if (depth > most) most = depth;
    } else if ((code === closeBracket || code === closeBrace) && depth > 0) depth -= 1;
  }
  return most;
}

const [openBracket, closeBracket, openBrace, closeBrace] = [...'[]{}'].map((one) => one.charCodeAt(0));

/** Levels by the library's tokens, which it makes without going down. */
function depthOf(text: string): number {
  let most = 0;
  const left: { token: unknown; depth: number }[] = [...new Parser().parse(text)].map((token) => ({ token, depth: 0 }));
  for (let one = left.pop(); one; one = left.pop()) {
    const { token, depth } = one;
    most = Math.max(most, depth);
    if (most > deepest) return most;
    for (const inner of insideOf(token as CST.Token)) left.push({ token: inner, depth: depth + 1 });
  }
  return most;
}

function insideOf(token: CST.Token): readonly (CST.Token | null | undefined)[] {
  if (!token) return [];
  if (token.type === 'document') return [token.value];
  return 'items' in token ? token.items.flatMap(({ key, value }) => [key, value]) : [];
}

/** What the library makes of a text that has not been checked; of one nested too deeply, that of an empty document. */
export function parsedYaml(text: string): Document.Parsed {
  return parseDocument(isTooDeep(text) ? '' : text, { prettyErrors: false });
}
