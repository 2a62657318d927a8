/** A form that only the ECMAScript data model has. */
export class OutsideSubset extends Error {}

/** What names in an expression mean. */
export interface Vocabulary {
  /** Our name for a datum; `undefined` when there is none. */
  datum(id: string): string | undefined;
  /** Our name for a state. */
  state(id: string): string | undefined;
  /** The id is that of a history. */
  isPseudo(id: string): boolean;
}

const operators: Readonly<Record<string, string>> = {
  '===': '=',
  '==': '=',
  '!==': '<>',
  '!=': '<>',
  '&&': 'AND',
  '||': 'OR',
  '!': 'NOT',
  '%': 'MOD',
};
const functions: Readonly<Record<string, string>> = {
  'Math.abs': 'ABS',
  'Math.pow': 'EXPT',
  'Math.sqrt': 'SQRT',
  'Math.min': 'MIN',
  'Math.max': 'MAX',
  'Math.sin': 'SIN',
  'Math.cos': 'COS',
  'Math.exp': 'EXP',
  'Math.log': 'LN',
};
const token =
  /\s*(?:(\d+\.?\d*(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?)|([A-Za-z_$][\w$]*(?:\.[A-Za-z_$][\w$]*)*)|('[^']*'|"[^"]*")|(\+\+|--|===|!==|==|!=|<=|>=|&&|\|\||[-+*/%<>!(),]))/y;

/**
 * Turns an expression of the data models "null" and "ecmascript" into Structured Text: numbers, TRUE and FALSE, arithmetic, comparisons, logic,
 * `In('state')` and data. Numbers are doubles, as in ECMAScript.
 * @throws {OutsideSubset} for anything else, with what it was
 */
export function toStructuredText(text: string, vocabulary: Vocabulary): string {
  const parts: string[] = [];
  token.lastIndex = 0;
  while (token.lastIndex < text.length && text.slice(token.lastIndex).trim() !== '') {
    const match = token.exec(text);
    if (!match) throw new OutsideSubset(text.slice(token.lastIndex).trim().slice(0, 20) || text);
    const [, number, name, string, operator] = match;
    if (number !== undefined) parts.push(real(number));
    else if (string !== undefined) parts.push(duration(string));
    else if (operator === '++' || operator === '--') throw new OutsideSubset(operator);
    else if (operator !== undefined) parts.push(operators[operator] ?? operator);
    else if (name === 'In') parts.push(inState(text, vocabulary));
    else parts.push(named(name as string, vocabulary));
  }
  for (const part of parts) if (part.length === 0) throw new OutsideSubset(text);
  return parts.join(' ');
}

/** Every number is a double: `1` divides like `1.0`. */
function real(text: string): string {
  const value = Number(text);
  return Number.isInteger(value) ? `${value}.0` : String(value);
}

/** A text is understood where it is a duration, `'1.5s'`. */
function duration(quoted: string): string {
  const time = cssTime(quoted.slice(1, -1));
  if (time === undefined) throw new OutsideSubset(quoted);
  return time;
}

/** A duration of CSS 2 (`1s`, `.5s`, `250ms`) as a literal of IEC 61131-3. */
export function cssTime(text: string): string | undefined {
  const match = /^\s*(\d*\.?\d+)(ms|s)\s*$/.exec(text);
  if (!match) return undefined;
  return `T#${Math.round(Number(match[1]) * (match[2] === 's' ? 1e9 : 1e6))}ns`;
}

function inState(text: string, vocabulary: Vocabulary): string {
  const rest = /\s*\(\s*(?:'([^']*)'|"([^"]*)")\s*\)/y;
  rest.lastIndex = token.lastIndex;
  const match = rest.exec(text);
  const id = match?.[1] ?? match?.[2] ?? '';
  const state = vocabulary.isPseudo(id) ? 'FALSE' : vocabulary.state(id);
  if (!match || !state) throw new OutsideSubset(text.slice(token.lastIndex - 2));
  token.lastIndex = rest.lastIndex;
  return state;
}

function named(name: string, vocabulary: Vocabulary): string {
  if (name === 'true' || name === 'false') return name.toUpperCase();
  if (name === '_event.data') return 'payload';
  const known = functions[name] ?? vocabulary.datum(name);
  if (!known) throw new OutsideSubset(name);
  return known;
}

/** Statements of a `<script>`: assignments `x = …`, `x += …` and `x++`. */
export function toStatements(text: string, vocabulary: Vocabulary): string {
  return text
    .split(/[;\n]/)
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('//'))
    .map((line) => {
      const match = /^([A-Za-z_$][\w$]*)\s*(?:(\+\+|--)|([-+*/]?)=(?!=)\s*(.+))$/.exec(line);
      const target = match ? vocabulary.datum(match[1] ?? '') : undefined;
      if (!match || !target) throw new OutsideSubset(line);
      if (match[2]) return `${target} := ${target} ${match[2].charAt(0)} 1.0;`;
      const value = toStructuredText(match[4] ?? '', vocabulary);
      return `${target} := ${match[3] ? `${target} ${match[3]} (${value})` : value};`;
    })
    .join('\n');
}
