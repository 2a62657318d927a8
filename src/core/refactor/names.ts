import { type Document, isPair, isScalar, isSeq, type Node, type Pair, visit } from 'yaml';
import { type Path, parsedYaml } from '@/core/yaml';

/** A dotted name somewhere in a document: its parts with their offsets in the text. */
export interface NameAt {
  /** Keys and indices that lead to the value it stands in; for a key, those of the value it stands before. */
  readonly path: Path;
  readonly isKey: boolean;
  readonly parts: readonly { readonly text: string; readonly from: number }[];
}

/** Comments (one that is never closed goes to the end) and pragmas hold no names; what follows a digit or `#` is a literal. */
const pattern = /\(\*[\s\S]*?(?:\*\)|$)|\/\/[^\n]*|\{[^}\n]*\}|(?<![\w.#])[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*/g;
const inYaml = /\(\*[\s\S]*?(?:\*\)|$)|(?<![\w.#])[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*/g;

/** All dotted names of a document: of YAML those in keys and plain values, of Structured Text those outside comments and pragmas. */
export function namesOf(file: string, text: string): NameAt[] {
  if (/\.st$/i.test(file)) return within(text, 0, [], false, pattern);
  if (!/\.ya?ml$/i.test(file)) return [];
  const found: NameAt[] = [];
  visit(parsedYaml(text), {
    Scalar(key, node, ancestors) {
      if (!node.range) return;
      const isKey = key === 'key';
      const steps = pathTo(ancestors, isKey ? undefined : node);
      const path = isKey ? [...steps, String(node.value)] : steps;
      found.push(...within(text.slice(node.range[0], node.range[1]), node.range[0], path, isKey, inYaml));
    },
  });
  return found;
}

/** The name at an offset of a text, and which of its parts stands there. */
export function nameUnder(file: string, text: string, offset: number): { readonly name: NameAt; readonly index: number } | undefined {
  for (const name of namesOf(file, text)) {
    const index = name.parts.findIndex((part) => part.from <= offset && offset <= part.from + part.text.length);
    if (index >= 0) return { name, index };
  }
  return undefined;
}

function within(text: string, offset: number, path: Path, isKey: boolean, shape: RegExp): NameAt[] {
  return [...text.matchAll(shape)].flatMap((match) => {
    if (!/^[A-Za-z_]/.test(match[0])) return [];
    let from = offset + match.index;
    const parts = match[0].split('.').map((part) => {
      const at = { text: part, from };
      from += part.length + 1;
      return at;
    });
    return [{ path, isKey, parts }];
  });
}

/** Keys of the pairs and indices of the lists around a node; without the node, those around the last pair. */
function pathTo(ancestors: readonly (Document | Node | Pair)[], node: Node | undefined): (string | number)[] {
  const chain = node ? [...ancestors, node] : ancestors.slice(0, -1);
  return chain.flatMap((one, index): (string | number)[] => {
    if (isPair(one)) return [isScalar(one.key) ? String(one.key.value) : ''];
    return isSeq(one) && index + 1 < chain.length ? [one.items.indexOf(chain[index + 1])] : [];
  });
}
