/** A comment, a text in quotes, a directive of the preprocessor, a sign that the layout goes by, or anything else up to the next of these. */
const piece = /\/\*[\s\S]*?\*\/|"(?:[^"\\]|\\.)*"|^#[^\n]*|[{}();\n]|[^{}();\n"/]+|\//gm;

const indent = '  ';

/** Lays C text out for reading: a statement a line, indented by its braces. What stands in comments, quotes, parentheses and directives stays as it is. */
export function laidOut(text: string): string {
  const out: string[] = [];
  let [line, depth, parentheses] = ['', 0, 0];
  const end = (): void => {
    if (line.trim() !== '') out.push(`${indent.repeat(depth)}${line.trim()}`);
    line = '';
  };
  const pieces = text.match(piece) ?? [];
  for (const [index, one] of pieces.entries()) {
    if (one === '(') parentheses += 1;
    if (one === ')') parentheses -= 1;
    if (parentheses > 0 || !'{};\n'.includes(one)) {
      line += one;
      if (one.startsWith('#')) end();
    } else if (one === ';') {
      line += one;
      end();
    } else if (one === '{') {
      line = `${line.trimEnd()}${line.trim() === '' ? '' : ' '}{`;
      end();
      depth += 1;
    } else if (one === '}') {
      end();
      depth -= 1;
      line = '}';
      // `} else {` and `} while (…);` go on in their line.
      if (/^\s*(else|while)\b/.test(pieces.slice(index + 1, index + 3).join(''))) line += ' ';
      else end();
    } else if (/^\/\*(?!@)[\s\S]*\*\/$/.test(line.trim())) end();
    else if (line.trim() !== '') line += ' ';
    else if (depth === 0 && out.at(-1) !== '') out.push('');
  }
  end();
  return out.join('\n').replace(/\{\n\s*\}/g, '{}');
}
